'use client';

import Link from 'next/link';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { Fragment, useMemo, type ReactNode } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { GameInfo, Player } from '@/core/game/info';
import { fromJson, type RecordJson } from '@/core/game/serial';
import type { NodeId } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { GameBoard } from '../board/game-board';
import { useShogiNotation } from '../preferences';
import { resultKey } from '../result-key';
import { printedRuns, type Run } from './printed-game';

/** A game as a page to be printed, with diagrams at chosen moves. */
export function PrintedPage({
  gameId,
  game,
  info,
  findings,
  canFind,
  diagrams,
  flipped,
}: {
  gameId: number;
  game: RecordJson;
  info: GameInfo;
  /** Whether the engine's findings are in. */
  findings: boolean;
  canFind: boolean;
  /** The moves that a diagram follows. */
  diagrams: readonly NodeId[];
  flipped: boolean;
}) {
  const t = useTranslations('print');
  const results = useTranslations('results');
  const router = useRouter();
  const search = useSearchParams();
  const path = usePathname();
  const notation = useShogiNotation();
  const { tree } = useMemo(() => fromJson(game, { legality: 'trusted' }), [game]);
  const ruleset = rulesetOf(tree.kind);
  const runs = useMemo(() => printedRuns(tree, ruleset, notation), [tree, ruleset, notation]);
  const show = (change: {
    findings?: boolean;
    diagrams?: readonly NodeId[];
    flipped?: boolean;
  }) => {
    const wanted = { findings, diagrams, flipped, ...change };
    const query = new URLSearchParams({
      ...Object.fromEntries(search),
      findings: wanted.findings ? '1' : '0',
      diagrams: wanted.diagrams.join('.'),
      flipped: wanted.flipped ? '1' : '0',
    });
    router.replace(`${path}?${query}`, { scroll: false });
  };
  const toggle = (node: NodeId): void =>
    show({
      diagrams: diagrams.includes(node)
        ? diagrams.filter((one) => one !== node)
        : [...diagrams, node],
    });
  return (
    <>
      <div className="print-tools d-print-none" role="toolbar" aria-label={t('tools')}>
        <Link href={`/games/${gameId}`}>{t('back')}</Link>
        <Form.Check
          id="print-findings"
          label={canFind ? t('findings') : t('noFindings')}
          checked={findings && canFind}
          disabled={!canFind}
          onChange={(event) => show({ findings: event.target.checked })}
        />
        <Form.Check
          id="print-flipped"
          label={t('flipped')}
          checked={flipped}
          onChange={(event) => show({ flipped: event.target.checked })}
        />
        <Button variant="seal" className="ms-auto" onClick={() => window.print()}>
          {t('print')}
        </Button>
        <span className="soft w-100">{t('how')}</span>
      </div>
      <article className="printed">
        <PrintedHead info={info} />
        <div className="printed-text">
          {runs.map((run, index) => (
            <PrintedRun
              key={index}
              run={run}
              isFirst={runs[index - 1]?.type === 'open'}
              onMove={toggle}
              toggleTitle={t('toggle')}
            >
              {run.type === 'move' && diagrams.includes(run.node) && (
                <div className="diagram">
                  <GameBoard
                    kind={ruleset.kind}
                    position={run.position}
                    flipped={flipped}
                    lastMove={null}
                    label={t('after', { move: run.text })}
                  />
                  <div className="caption">{t('after', { move: run.text })}</div>
                </div>
              )}
            </PrintedRun>
          ))}{' '}
          <strong>{info.result !== '*' && results(resultKey(info, info.result))}</strong>
        </div>
      </article>
    </>
  );
}

function PrintedHead({ info }: { info: GameInfo }) {
  const t = useTranslations('gameCard');
  const name = ({ name: own, rating, title }: Player): ReactNode => (
    <>
      {[title, own ?? '?'].filter(Boolean).join(' ')}
      {rating !== null && <span className="rating"> {rating}</span>}
    </>
  );
  const facts = [
    info.event,
    info.round && t('round', { round: info.round }),
    info.site,
    info.date,
    info.timeControlText,
  ].filter(Boolean);
  return (
    <header>
      <h1>
        {name(info.players[0])} – {name(info.players[1])}
      </h1>
      <p>{facts.join(' · ')}</p>
    </header>
  );
}

function PrintedRun({
  run,
  isFirst,
  onMove,
  toggleTitle,
  children,
}: {
  run: Run;
  /** Right behind a bracket. */
  isFirst: boolean;
  onMove(node: NodeId): void;
  toggleTitle: string;
  children: ReactNode;
}) {
  const space = isFirst ? '' : ' ';
  switch (run.type) {
    case 'open':
      // a bracket is never left alone at the end of a line
      return ' (\u2060';
    case 'close':
      return '\u2060)';
    case 'words':
      return (
        <>
          {space}
          <em className={run.isLesson ? 'lesson' : undefined}>{run.text}</em>
        </>
      );
    case 'move':
      return (
        <Fragment>
          {space}
          <button
            type="button"
            className={run.isMain ? 'printed-move main' : 'printed-move'}
            title={toggleTitle}
            onClick={() => onMove(run.node)}
          >
            {run.text}
          </button>
          {children}
        </Fragment>
      );
  }
}
