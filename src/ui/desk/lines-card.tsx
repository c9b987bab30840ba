'use client';

import { useEffect, useRef, useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { chanceOf } from '@/core/review/chance';
import type { Score } from '@/core/game/score';
import type { NodeId } from '@/core/game/tree';
import { pathTo } from '@/core/game/tree';
import type { Engine, SearchInfo } from '@/engine/contract';
import { scoreText } from '../format';
import { useReview } from './desk-review';
import { useDesk } from './desk-store';
import { InlineLine } from './inline-line';

const LIVE_LINES = 3;

interface Live {
  node: NodeId;
  info: SearchInfo;
}

const MOST_THREADS = 4;

/** Cores that may think while the page itself stays quick. */
const spareCores = (): number =>
  Math.max(1, Math.min(MOST_THREADS, navigator.hardwareConcurrency - 1));

/** Thinks about the node on the board in a worker of the page for as long as it is asked to. */
function useLiveLines(on: boolean): Live | null {
  const view = useDesk((state) => state.view);
  const node = useDesk((state) => state.node);
  const engine = useRef<Promise<Engine> | null>(null);
  const [live, setLive] = useState<Live | null>(null);
  const { kind } = view.ruleset;
  useEffect(() => {
    if (!on) return;
    const stop = new AbortController();
    engine.current ??= import('@/engine/hosts/browser').then((host) =>
      host.startBrowserEngine(kind, spareCores()),
    );
    const path = pathTo(view.record.tree, node).slice(0, -1);
    const history =
      node === 0 ? [] : [view.positionOf(0), ...path.map(({ id }) => view.positionOf(id))];
    const request = {
      kind,
      root: view.ruleset.searchRoot(view.positionOf(node), history),
      limits: {},
      lines: LIVE_LINES,
      fresh: false,
    };
    const show = (info: SearchInfo): void => {
      if (!stop.signal.aborted) setLive({ node, info });
    };
    void engine.current
      .then((started) => started.search(request, { signal: stop.signal, onInfo: show }))
      .catch(() => undefined);
    return () => stop.abort();
  }, [on, node, view, kind]);
  useEffect(
    () => () => {
      void engine.current?.then((started) => started.close()).catch(() => undefined);
      engine.current = null;
    },
    [],
  );
  return on && live?.node === node ? live : null;
}

/** The engine's lines for the position on the board: what the sweep found, or live while asked for. */
export function LinesCard() {
  const t = useTranslations('lines');
  const view = useDesk((state) => state.view);
  const node = useDesk((state) => state.node);
  const { evaluations } = useReview();
  const [on, setOn] = useState(false);
  const live = useLiveLines(on);
  const ply = view.plyOf(node);
  const stored = view.isMainLine(node) ? (evaluations[ply] ?? null) : null;
  const lines = live?.info.lines ?? stored?.lines ?? [];
  const side = view.ruleset.side(view.positionOf(node));
  const mateIn = view.ruleset.numbering === 'move' ? 'moves' : 'plies';
  const [next] = view.node(node).children;
  const played = next === undefined ? null : view.ruleset.code(view.node(next).move);
  const outside = !live && stored?.played && played !== null ? stored.played : null;
  const row = (score: Score, codes: readonly string[], rank: string) => (
    <tr key={rank} className={codes[0] === played ? 'played' : undefined}>
      <td className="soft">{rank}</td>
      <td className="score">{scoreText(score, side, mateIn)}</td>
      <td className="text-nowrap">{Math.round(chanceOf(view.ruleset.kind, score, side))} %</td>
      <td className="one-row">
        <InlineLine base={node} codes={codes} most={6} />
      </td>
    </tr>
  );
  return (
    <section className="card-box" aria-label={t('title')}>
      <header>
        <h2 className="m-0">{t('title')}</h2>
        <span className="state">
          {live
            ? t('live', {
                depth: live.info.depth,
                speed: (live.info.nodes / Math.max(1, live.info.milliseconds) / 1000).toFixed(1),
              })
            : stored
              ? t('stored', { depth: stored.depth })
              : null}
          {lines.length > 0 && ` · ${t('view', { side: t(`sides.${view.ruleset.sides[side]}`) })}`}
        </span>
        <Button variant="plain" aria-pressed={on} onClick={() => setOn(!on)}>
          {on ? t('stop') : t('think')}
        </Button>
      </header>
      {lines.length > 0 ? (
        <>
          <Ruler chance={chanceOf(view.ruleset.kind, lines[0]!.score, side)} />
          <table className="lines-table">
            <thead className="visually-hidden">
              <tr>
                <th>{t('rank')}</th>
                <th>{t('score')}</th>
                <th>{t('chance')}</th>
                <th>{t('moves')}</th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line, index) => row(line.score, line.moves, String(index + 1)))}
              {outside && row(outside.score, outside.moves, '…')}
            </tbody>
          </table>
        </>
      ) : (
        <p className="soft m-0">{on ? t('starting') : t('empty')}</p>
      )}
    </section>
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
