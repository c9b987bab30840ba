'use client';

import { useEffect, useRef, useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { PinAngle, PlusLg } from 'react-bootstrap-icons';
import { chanceOf, lossOf, wholeLoss } from '@/core/review/chance';
import { EXACT_DEPTH, type PositionEvaluation } from '@/core/review/evaluation';
import { keepers } from '@/core/review/settled';
import type { AnswerLine } from '@/core/ask/question';
import { clockText, scoreText } from '../format';
import { readLine } from '../move-text';
import { usePreferences, useShogiNotation } from '../preferences';
import { releaseAfterClick, rove } from '../roving';
import { useSideName } from '../side-name';
import { insertFrom, type BoardPlace } from './board-place';
import { useCardPlace } from './card-place';
import { DepthCurve } from './depth-curve';
import { DeskCard } from './desk-card';
import { useReview } from './desk-review';
import { useDesk, useDeskStore } from './desk-store';
import { LineCells, LineMoves, useLinePreview, type Preview } from './line-moves';
import { LiveAnalysis, passedRoot, type Live } from './live-analysis';
import { useEngine } from './use-engine';

const MOST_LINES = 8;
const MOST_THREADS = 4;

/** Cores that may think while the page itself stays quick. */
const spareCores = (): number =>
  Math.max(1, Math.min(MOST_THREADS, navigator.hardwareConcurrency - 1));

/** Thinks about what is on the board in workers of the page for as long as it is asked to. */
function useLive(place: BoardPlace, played: string | null): { live: Live | null; failed: boolean } {
  const ruleset = useDesk(({ view }) => view.ruleset);
  const { thinking, lineCount, threats } = usePreferences();
  const [live, setLive] = useState<Live | null>(null);
  const [failed, setFailed] = useState(false);
  const { kind } = ruleset;
  const engine = useEngine(kind, spareCores);
  const analysis = useRef<Promise<LiveAnalysis> | null>(null);
  useEffect(() => {
    if (!thinking) return;
    analysis.current ??= engine().then(
      (started) => new LiveAnalysis(started, setLive, () => setFailed(true)),
    );
    let left = false;
    const thought = analysis.current.then((started) => {
      if (left) return;
      started.think({
        place: place.name,
        kind,
        root: ruleset.searchRoot(place.position, place.history),
        side: ruleset.side(place.position),
        lines: lineCount,
        played,
        passed: threats ? passedRoot(ruleset, place.position) : null,
      });
    });
    thought.then(
      () => setFailed(false),
      () => {
        analysis.current = null;
        setFailed(true);
      },
    );
    const { current } = analysis;
    return () => {
      left = true;
      current.then((started) => started.pause()).catch(() => undefined);
    };
  }, [thinking, lineCount, threats, place, played, ruleset, kind, engine]);
  const shown = thinking && live?.place === place.name && live.info.lines.length > 0;
  return { live: shown ? live : null, failed: thinking && failed };
}

/** The engine's lines for the position on the board: what the sweep found, or live while asked for. */
export function LinesCard() {
  const t = useTranslations('lines');
  const view = useDesk((state) => state.view);
  const place = useCardPlace();
  const { evaluations } = useReview();
  const { thinking, lineCount, threats, set } = usePreferences();
  const [held, setHeld] = useState<Live | null>(null);
  const { card, onPreview, preview } = useLinePreview<HTMLDivElement>();
  const { ruleset } = view;
  const sideName = useSideName(ruleset);
  const atNode = place.way.length === 0;
  const [next] = atNode ? view.node(place.node).children : [];
  const played = next === undefined ? null : ruleset.code(view.node(next).move);
  const { live: now, failed } = useLive(place, played);
  // while the lines are pointed at, they stay as they are: what is read is what is clicked
  const isHeld = held?.place === place.name;
  const store = useDeskStore();
  useEffect(() => {
    store.getState().showGuess(now && { place: now.place, score: now.info.lines[0]!.score });
  }, [store, now]);
  const live = isHeld ? held : now;
  const hold = (): void => setHeld(live);
  const release = (): void => setHeld(null);
  const stored =
    atNode && view.isMainLine(place.node) ? (evaluations[view.plyOf(place.node)] ?? null) : null;
  const lines = live?.info.lines ?? stored?.lines ?? [];
  // side by side, if less deeply
  const compared = (live ? null : stored?.compared) ?? lines;
  const side = ruleset.side(place.position);
  const comparedChances = compared.map(({ score }) => chanceOf(ruleset.kind, score, side));
  const chances = lines.map(({ score }) => chanceOf(ruleset.kind, score, side));
  const priced = live ? (live.played?.code === played ? live.played : null) : pricedBySweep(stored);
  const isOutside = played !== null && !lines.some(({ moves }) => moves[0] === played);
  const rows: { rank: number | null; line: AnswerLine }[] = lines.map((line, index) => ({
    rank: index + 1,
    line,
  }));
  // the move played stands where its own, deeper search puts it
  if (isOutside && priced) {
    const chance = chanceOf(ruleset.kind, priced.line.score, side);
    const below = chances.findIndex((other) => other < chance);
    rows.splice(below < 0 ? rows.length : below, 0, { rank: null, line: priced.line });
  }
  return (
    <DeskCard
      name="lines"
      title={t('title')}
      className="lines-card"
      bodyRef={card}
      headline={
        lines[0] ? (
          <LinesHeadline
            line={lines[0]}
            place={place}
            isOnly={comparedChances.length > 1 && keepers(comparedChances) === 1}
          />
        ) : (
          t(failed ? 'headlineFailed' : thinking ? 'starting' : 'headlineNone')
        )
      }
      tools={
        <>
          <Form.Select
            size="sm"
            className="line-count"
            aria-label={t('count')}
            title={t('count')}
            value={lineCount}
            onChange={(event) => set({ lineCount: Number(event.target.value) })}
          >
            {Array.from({ length: MOST_LINES }, (_, index) => (
              <option key={index}>{index + 1}</option>
            ))}
          </Form.Select>
          <Button
            variant="plain"
            aria-pressed={threats}
            disabled={!thinking}
            onClick={() => set({ threats: !threats })}
          >
            {t('threat')}
          </Button>
          <Button
            variant="plain"
            aria-pressed={thinking}
            onClick={() => set({ thinking: !thinking })}
          >
            {thinking ? t('stop') : t('think')}
          </Button>
        </>
      }
    >
      {lines.length > 0 ? (
        <>
          <p className="state soft small m-0">
            {live
              ? t('live', {
                  depth: live.info.depth,
                  speed: (live.info.nodes / Math.max(1, live.info.milliseconds) / 1000).toFixed(1),
                  time: clockText(Math.floor(live.info.milliseconds / 1000) * 1000),
                })
              : stored
                ? stored.depth === EXACT_DEPTH
                  ? t('exact')
                  : t('stored', { depth: stored.depth })
                : null}
            {` · ${t('view', { side: sideName(side) })}`}
            {isHeld && thinking && ` · ${t('held')}`}
          </p>
          <Ruler chance={chances[0]!} />
          <table
            className="lines-table"
            onMouseMove={hold}
            onMouseLeave={({ currentTarget }) => {
              if (!currentTarget.contains(document.activeElement)) release();
            }}
            onFocus={hold}
            onBlur={({ currentTarget, relatedTarget }) => {
              if (!currentTarget.contains(relatedTarget)) release();
            }}
          >
            <thead className="visually-hidden">
              <tr>
                <th>{t('rank')}</th>
                <th>{t('score')}</th>
                <th>{t('chance')}</th>
                <th>{t('moves')}</th>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ rank, line }) => (
                <LineRow
                  key={line.moves[0]}
                  rank={rank === null ? '…' : String(rank)}
                  line={line}
                  isPlayed={line.moves[0] === played}
                  place={place}
                  onPreview={onPreview}
                />
              ))}
            </tbody>
          </table>
          <Remarks
            chances={comparedChances}
            rank={compared.findIndex(({ moves }) => moves[0] === played) + 1}
            cost={
              isOutside && priced
                ? lossOf(ruleset.kind, priced.best, priced.line.score, side)
                : null
            }
          />
          {live && <DepthCurve curve={live.curve} />}
          {thinking && threats && <Threat live={live} place={place} onPreview={onPreview} />}
        </>
      ) : (
        !failed && <p className="soft m-0">{t(thinking ? 'starting' : 'empty')}</p>
      )}
      {failed && (
        <p className="m-0" role="alert">
          {t('failed')}
        </p>
      )}
      {preview}
    </DeskCard>
  );
}

/** What the best line says, and whether there is another. */
function LinesHeadline({
  line,
  place,
  isOnly,
}: {
  line: AnswerLine;
  place: BoardPlace;
  isOnly: boolean;
}) {
  const t = useTranslations('lines');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const notation = useShogiNotation();
  const [first] = readLine(ruleset, place.position, line.moves.slice(0, 1), null, notation);
  return (
    <>
      <strong>{scoreText(line.score, ruleset.side(place.position), ruleset)}</strong> {first?.text}
      {isOnly && `, ${t('headlineOnly')}`}
    </>
  );
}

/** The move played as a sweep priced it, to the depth of its lines. */
const pricedBySweep = (stored: PositionEvaluation | null) =>
  stored?.played && stored.lines[0] ? { line: stored.played, best: stored.lines[0].score } : null;

function LineRow({
  rank,
  line,
  isPlayed,
  place,
  onPreview,
}: {
  rank: string;
  line: AnswerLine;
  isPlayed: boolean;
  place: BoardPlace;
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('lines');
  const store = useDeskStore();
  const { moves: codes } = line;
  const insert = (length: number, follow: boolean): void => {
    const { view, node, edit } = store.getState();
    const { steps, node: last } = insertFrom(view.record, place, codes.slice(0, length));
    edit({ steps, node: follow ? last : node });
    onPreview(null);
  };
  return (
    <tr className={isPlayed ? 'played' : undefined} onKeyDown={rove}>
      <td className="soft">{rank}</td>
      <LineCells
        line={line}
        place={place}
        onPick={(length) => insert(length, true)}
        onPreview={onPreview}
      />
      <td className="text-nowrap">
        <Button
          variant="plain"
          size="sm"
          className="insert"
          tabIndex={-1}
          aria-label={t('pin')}
          title={t('pin')}
          onClick={(event) => {
            releaseAfterClick(event);
            store.getState().pin(place.name, codes[0]!);
          }}
        >
          <PinAngle aria-hidden="true" />
        </Button>
        <Button
          variant="plain"
          size="sm"
          className="insert"
          tabIndex={-1}
          aria-label={t('insertLine')}
          title={t('insertLine')}
          onClick={(event) => {
            releaseAfterClick(event);
            insert(codes.length, false);
          }}
        >
          <PlusLg aria-hidden="true" />
        </Button>
      </td>
    </tr>
  );
}

/** What the lines say about the move played, and how many moves would do. */
function Remarks({
  chances,
  rank,
  cost,
}: {
  chances: readonly number[];
  /** Of the move played among the lines; 0: outside. */
  rank: number;
  /** Chance points that the move played gives away at the depth at which it was priced, where it is outside. */
  cost: number | null;
}) {
  const t = useTranslations('lines');
  const remarks: string[] = [];
  if (chances.length > 1) {
    const count = keepers(chances);
    if (count === 1) remarks.push(t('onlyMove', { gap: wholeLoss(chances[0]! - chances[1]!) }));
    else if (count === chances.length) remarks.push(t('allKeep', { count }));
    else remarks.push(t('keeps', { count }));
  }
  if (rank === 0 && cost !== null) {
    const loss = wholeLoss(cost);
    if (loss === 0) remarks.push(t('asGood'));
    else if (chances.length > 1)
      remarks.push(`${t('rankOutside', { lines: chances.length })}, ${t('cost', { loss })}`);
    else remarks.push(t('playedCost', { loss }));
  }
  return remarks.length > 0 && <p className="soft small m-0">{remarks.join(' ')}</p>;
}

/** What the other side would do if it were to move now. */
function Threat({
  live,
  place,
  onPreview,
}: {
  live: Live | null;
  place: BoardPlace;
  onPreview(preview: Preview | null): void;
}) {
  const t = useTranslations('lines');
  const store = useDeskStore();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const sideName = useSideName(ruleset);
  const threat = live?.threat ?? null;
  const code = threat?.moves[0] ?? null;
  useEffect(() => {
    store.getState().showThreat(code === null ? null : { place: place.name, code });
    return () => store.getState().showThreat(null);
  }, [store, code, place.name]);
  const other = (1 - ruleset.side(place.position)) as 0 | 1;
  if (!threat)
    return ruleset.inCheck(place.position) && <p className="soft small m-0">{t('noThreat')}</p>;
  const isMate = threat.score.kind === 'mate' && threat.score.winner === other;
  return (
    <p className="m-0 mt-1" data-testid="threat" onKeyDown={rove}>
      <span className="soft">{t('threatLabel', { side: sideName(other) })} </span>
      <strong>{scoreText(threat.score, other, ruleset)}</strong>{' '}
      {isMate && <strong className="sign blunder">{t('threatmate')} </strong>}
      <LineMoves place={place} codes={threat.moves} passed onPreview={onPreview} />
    </p>
  );
}

/** Where the evaluation stands between lost and won: a tick on a ruler. */
function Ruler({ chance }: { chance: number }) {
  const x = 4 + (chance / 100) * 352;
  return (
    <svg className="ruler" viewBox="0 0 360 26" preserveAspectRatio="none" aria-hidden="true">
      <line x1="4" y1="16" x2="356" y2="16" />
      {Array.from({ length: 11 }, (_, index) => (
        <line
          key={index}
          x1={4 + index * 35.2}
          x2={4 + index * 35.2}
          y1={index % 5 === 0 ? 9 : 13}
          y2={index % 5 === 0 ? 23 : 19}
        />
      ))}
      <path className="tick" d={`M${x - 5} 2h10l-5 9zM${x} 10v12`} strokeWidth="2" />
    </svg>
  );
}
