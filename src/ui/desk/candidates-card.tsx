'use client';

import { Fragment, useEffect, useMemo, useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { X } from 'react-bootstrap-icons';
import { writeWords } from '@/core/game/edits';
import { featureTable } from '@/core/game/features';
import type { Move } from '@/core/game/move';
import { applySteps } from '@/core/game/steps';
import { walk } from '@/core/game/walk';
import { weigh, type Weighed } from '@/core/ask/weigh';
import { chanceOf } from '@/core/review/chance';
import { GameBoard } from '../board/game-board';
import { MoveField } from '../board/move-field';
import { clockText, scoreText } from '../format';
import { moveText, readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { insertFrom, type BoardPlace } from './board-place';
import { useCardPlace } from './card-place';
import { DepthCurve } from './depth-curve';
import { DeskCard } from './desk-card';
import { MOST_PINNED, useDesk, useDeskStore } from './desk-store';
import { usePlan, within } from './use-plan';

const WEIGH_MS = 8000;

/** Two to four moves weighed against each other at equal depth. */
export function CandidatesCard() {
  const t = useTranslations('candidates');
  const store = useDeskStore();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const sideName = useSideName(ruleset);
  const pinned = useDesk((state) => state.pinned);
  const pinning = useDesk((state) => state.pinning);
  const place = useCardPlace();
  const notation = useShogiNotation();
  const { run, stop, busy, failed } = usePlan(ruleset.kind);
  const [guess, setGuess] = useState('');
  const [weighed, setWeighed] = useState<{ place: string; found: readonly Weighed[] } | null>(null);
  const candidates = pinned?.place === place.name ? pinned.codes : [];
  const found =
    weighed?.place === place.name
      ? weighed.found.filter(({ code }) => candidates.includes(code))
      : [];
  const guessed = candidates.includes(guess) ? guess : '';
  const side = ruleset.side(place.position);
  useEffect(() => stop, [stop, place.name]);

  const textOf = (code: string): string =>
    moveText(ruleset, place.position, ruleset.parseCode(code)!, null, notation);
  const start = async (): Promise<void> => {
    const root = ruleset.searchRoot(place.position, place.history);
    const task = { kind: ruleset.kind, root, side, candidates };
    await run(weigh(task, within(WEIGH_MS)), (all) =>
      setWeighed({ place: place.name, found: all }),
    );
  };
  const best = found.toSorted(
    (a, b) =>
      chanceOf(ruleset.kind, b.line.score, side) - chanceOf(ruleset.kind, a.line.score, side),
  )[0];
  return (
    <DeskCard
      name="candidates"
      title={t('title')}
      className="candidates-card"
      spreads
      headline={
        found.length > 0
          ? found
              .map(({ code, line }) => `${textOf(code)} ${scoreText(line.score, side, ruleset)}`)
              .join(', ')
          : candidates.length > 0
            ? candidates.map(textOf).join(', ')
            : t('headlineNone')
      }
      tools={
        <>
          <span className="state" role="status">
            {found[0] && t('state', { depth: found[0].depth, side: sideName(side) })}
          </span>
          {busy ? (
            <Button variant="plain" onClick={stop}>
              {t('stop')}
            </Button>
          ) : (
            <Button variant="plain" disabled={candidates.length < 2} onClick={() => void start()}>
              {t('weigh')}
            </Button>
          )}
        </>
      }
    >
      <div className="d-flex flex-wrap gap-1 align-items-center mb-1">
        {candidates.map((code) => (
          <span key={code} className="pinned">
            {textOf(code)}{' '}
            <button
              type="button"
              aria-label={t('unpin', { move: textOf(code) })}
              onClick={() => store.getState().pin(place.name, code)}
            >
              <X aria-hidden="true" />
            </button>
          </span>
        ))}
        {candidates.length < MOST_PINNED && (
          <>
            <PinField />
            <Button
              variant="plain"
              aria-pressed={pinning}
              onClick={() => store.getState().setPinning(!pinning)}
            >
              {t('fromBoard')}
            </Button>
          </>
        )}
      </div>
      {candidates.length >= 2 && found.length === 0 && (
        <label className="d-flex align-items-center gap-2">
          {t('guess')}
          <Form.Select
            size="sm"
            className="w-auto"
            value={guessed}
            onChange={(event) => setGuess(event.target.value)}
          >
            <option value="">{t('noGuess')}</option>
            {candidates.map((code) => (
              <option key={code} value={code}>
                {textOf(code)}
              </option>
            ))}
          </Form.Select>
        </label>
      )}
      {candidates.length < 2 && <p className="soft m-0">{t('empty')}</p>}
      {failed && <p role="alert">{t('failed')}</p>}
      {best && guessed !== '' && !busy && (
        <p className="m-0" role="status">
          {t(best.code === guessed ? 'guessed' : 'guessedOther', {
            guess: textOf(guessed),
            best: textOf(best.code),
          })}
        </p>
      )}
      {found.length > 0 && (
        <div className="weighed">
          {found.map((one) => (
            <WeighedMove
              key={one.code}
              weighed={one}
              place={place}
              text={textOf(one.code)}
              isBest={one.code === best?.code}
            />
          ))}
        </div>
      )}
      {found.length > 1 && <Comparison found={found} place={place} textOf={textOf} />}
    </DeskCard>
  );
}

/** Pins to what is on the board, which the card follows a moment later: who steps and types at once means the board. */
function PinField() {
  const t = useTranslations('candidates');
  const store = useDeskStore();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const { name, position, move: previous } = useDesk((state) => state.place());
  return (
    <MoveField
      ruleset={ruleset}
      position={position}
      previous={previous}
      label={t('pinField')}
      onMove={(move: Move) => store.getState().pin(name, ruleset.code(move))}
      compact
    />
  );
}

/** How many moves of the main line are played for the position that is shown. */
const AHEAD = 8;

function WeighedMove({
  weighed: { line, depth, milliseconds, curve },
  place,
  text,
  isBest,
}: {
  weighed: Weighed;
  place: BoardPlace;
  text: string;
  isBest: boolean;
}) {
  const t = useTranslations('candidates');
  const store = useDeskStore();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const flipped = useDesk((state) => state.flipped);
  const notation = useShogiNotation();
  const side = ruleset.side(place.position);
  const moves = readLine(ruleset, place.position, line.moves.slice(0, AHEAD), null, notation);
  const end = moves.at(-1)!;
  const score = `${scoreText(line.score, side, ruleset)} (${Math.round(chanceOf(ruleset.kind, line.score, side))} %)`;
  const insert = (): void => {
    const { view, node, edit } = store.getState();
    const { steps } = insertFrom(view.record, place, line.moves);
    const after = applySteps(view.record, steps);
    const { node: first } = insertFrom(after, place, line.moves.slice(0, 1));
    const note = t('comment', { score, depth });
    const words = after.tree.nodes.get(first)?.comment;
    const written = writeWords(after.tree, first, 'comment', words ? `${words}\n${note}` : note);
    edit({ steps: [...steps, ...written.steps], node });
  };
  return (
    <article className={isBest ? 'best' : undefined} aria-label={text}>
      <h3>
        {text} <strong>{score}</strong>
      </h3>
      <DepthCurve curve={curve} />
      <div className="weighed-board">
        <GameBoard
          kind={ruleset.kind}
          position={end.position}
          flipped={flipped}
          lastMove={end.move}
          label={t('after', { move: end.text })}
        />
      </div>
      <p className="m-0 small">
        {moves[1] ? t('reply', { move: moves[1].text }) : t('noReply')}{' '}
        <span className="soft">{clockText(Math.round(milliseconds / 1000) * 1000)}</span>
      </p>
      <Button variant="plain" onClick={insert}>
        {t('insert')}
      </Button>
    </article>
  );
}

/** How the structure differs at the end of each line: a row for each feature that is not the same as on the board. */
function Comparison({
  found,
  place,
  textOf,
}: {
  found: readonly Weighed[];
  place: BoardPlace;
  textOf: (code: string) => string;
}) {
  const t = useTranslations('features');
  const castles = useTranslations('castles');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const sideName = useSideName(ruleset);
  const rows = useMemo(() => {
    const ends = found.map(
      ({ line }) => walk(ruleset, place.position, line.moves.slice(0, AHEAD)).at(-1)!.after,
    );
    return featureTable([place.position, ...ends].map((position) => ruleset.features(position)));
  }, [found, place, ruleset]);
  const say = (name: string, value: string | number): string =>
    name === 'castle' ? castles(value as 'none') : String(value);
  if (rows.length === 0) return <p className="soft small m-0">{t('nothing')}</p>;
  return (
    <table className="comparison">
      <caption>{t('caption', { first: sideName(0), second: sideName(1) })}</caption>
      <thead>
        <tr>
          <th>{t('feature')}</th>
          <th>{t('now')}</th>
          {found.map(({ code }) => (
            <th key={code}>{textOf(code)}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ name, values: [now, ...others] }) => (
          <tr key={name}>
            <th>{t(name as 'material')}</th>
            <td className="soft">{now!.map((value) => say(name, value)).join(' : ')}</td>
            {others.map((values, index) => (
              <td key={index}>
                {values.map((value, side) => (
                  <Fragment key={side}>
                    {side === 1 && ' : '}
                    <span className={value === now![side] ? 'soft' : 'fw-bold'}>
                      {say(name, value)}
                    </span>
                  </Fragment>
                ))}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
