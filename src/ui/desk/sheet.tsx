'use client';

import { Fragment, memo, useEffect, useMemo, useRef } from 'react';
import { useTranslations } from 'next-intl';
import { nodeOf, ROOT, type GameNode, type NodeId } from '@/core/game/tree';
import type { MoveReview } from '@/core/review/review';
import { clockText } from '../format';
import { moveText, numberText } from '../move-text';
import { usePreferences } from '../preferences';
import { useReview } from './desk-review';
import { useDesk, useDeskStore } from './desk-store';
import type { GameView } from './game-view';
import { InlineLine } from './inline-line';
import { Sign, signsOf } from './sign';

/** A row of the sheet, or what stands under a move. */
type Item =
  | { type: 'row'; number: string; first: GameNode | null; second: GameNode | null }
  | { type: 'under'; node: GameNode };

const hasRemarks = (
  view: GameView,
  node: GameNode,
  found: MoveReview | null | undefined,
): boolean =>
  node.comment !== undefined ||
  view.node(node.parent!).children.length > 1 ||
  (!!found && found.verdict !== 'none' && found.verdict !== 'only move');

/** The main line in rows of two, broken where something stands under a move. */
function itemsOf(view: GameView, reviews: readonly (MoveReview | null)[]): Item[] {
  const items: Item[] = [];
  let row: Extract<Item, { type: 'row' }> | null = null;
  view.line.forEach((node, index) => {
    const before = view.positionOf(node.parent!);
    const second = view.ruleset.side(before) === 1;
    if (!second || row === null) {
      row = {
        type: 'row',
        number: String(view.ruleset.moveNumber(before)),
        first: null,
        second: null,
      };
      items.push(row);
    }
    if (second) row.second = node;
    else row.first = node;
    if (second) row = null;
    if (!hasRemarks(view, node, reviews[index])) return;
    items.push({ type: 'under', node });
    row = null;
  });
  return items;
}

/** The game's score: moves in two columns, words and variations under the move they belong to. */
export function Sheet() {
  const t = useTranslations('sheet');
  const view = useDesk((state) => state.view);
  const { review } = useReview();
  const items = useMemo(() => itemsOf(view, review?.moves ?? []), [view, review]);
  const opening = view.node(ROOT).comment;
  return (
    <div className="sheet-scroll" tabIndex={-1} role="region" aria-label={t('label')}>
      <div className="sheet-rows">
        {opening && <p className="words m-0 mb-1">{opening}</p>}
        {items.map((item) =>
          item.type === 'row' ? (
            <Row key={`${item.first?.id}-${item.second?.id}`} {...item} />
          ) : (
            <Under key={`under-${item.node.id}`} node={item.node} />
          ),
        )}
        {view.line.length === 0 && <p className="soft">{t('noMoves')}</p>}
      </div>
      <p className="mt-2 mb-0 text-center">{view.record.result !== '*' && view.record.result}</p>
    </div>
  );
}

const Row = memo(function Row({ number, first, second }: Extract<Item, { type: 'row' }>) {
  return (
    <div className="row-of-two">
      <span className="number">{number}</span>
      {first ? <SheetMove node={first} /> : <span className="move soft">…</span>}
      {second ? <SheetMove node={second} /> : <span className="move" />}
    </div>
  );
});

function useMoveText(node: GameNode): string {
  const view = useDesk((state) => state.view);
  const notation = usePreferences((state) => state.shogiNotation);
  return useMemo(
    () =>
      moveText(
        view.ruleset,
        view.positionOf(node.parent!),
        node.move,
        view.moveTo(node.parent!),
        notation,
      ),
    [view, node, notation],
  );
}

/** Keeps the current move in sight without moving the page. */
function useInSight(current: boolean) {
  const ref = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const element = ref.current;
    const scroller = element?.closest('.sheet-scroll');
    if (!current || !element || !scroller) return;
    // measured in the frame that lays the page out anyway, not in the key's own time
    const frame = requestAnimationFrame(() => {
      const box = scroller.getBoundingClientRect();
      const own = element.getBoundingClientRect();
      if (own.top < box.top || own.bottom > box.bottom)
        scroller.scrollTop += own.top - box.top - box.height / 2;
    });
    return () => cancelAnimationFrame(frame);
  }, [current]);
  return ref;
}

function SheetMove({ node }: { node: GameNode }) {
  const store = useDeskStore();
  const view = useDesk((state) => state.view);
  const current = useDesk((state) => state.node === node.id);
  const { review } = useReview();
  const ref = useInSight(current);
  const text = useMoveText(node);
  const ply = view.plyOf(node.id);
  const spent = view.timeAtPly(ply)?.spent ?? null;
  return (
    <button
      ref={ref}
      type="button"
      className={current ? 'move current' : 'move'}
      aria-current={current ? 'step' : undefined}
      data-ply={ply}
      onClick={() => store.getState().goTo(node.id)}
    >
      <span>{text}</span>
      {signsOf(node.symbols, review?.moves[ply - 1]?.verdict).map((nag) => (
        <Sign key={nag} nag={nag} />
      ))}
      {spent !== null && <span className="seconds">{clockText(spent)}</span>}
    </button>
  );
}

/** What stands under a move: what it cost and the better line, the player's words, variations. */
const Under = memo(function Under({ node }: { node: GameNode }) {
  const view = useDesk((state) => state.view);
  const { review } = useReview();
  const found = review?.moves[view.plyOf(node.id) - 1];
  const [, ...variations] = view.node(node.parent!).children;
  return (
    <div className="under">
      {found && found.verdict !== 'none' && found.verdict !== 'only move' && (
        <Finding node={node} found={found} />
      )}
      {node.comment && <div className="words">{node.comment}</div>}
      {variations.map((id) => (
        <div key={id}>
          <Variation id={id} />
        </div>
      ))}
    </div>
  );
});

function Finding({ node, found }: { node: GameNode; found: MoveReview }) {
  const t = useTranslations('finding');
  const view = useDesk((state) => state.view);
  const spent = view.timeAtPly(found.ply)?.spent ?? null;
  const facts = [
    found.rank === null
      ? t('outside', { lines: found.linesKnown })
      : t('rank', { rank: found.rank }),
    ...(found.isTurningPoint ? [t('turningPoint')] : []),
    ...(spent !== null && spent < 5000
      ? [t('seconds', { seconds: Math.round(spent / 1000) })]
      : []),
  ];
  return (
    <div>
      <strong>{t('cost', { loss: Math.floor(found.loss) })}</strong> · {facts.join(' · ')}
      {found.betterLine.length > 0 && (
        <div>
          <span className="soft">{t('better')} </span>
          <InlineLine base={node.parent!} codes={found.betterLine} most={8} />
        </div>
      )}
    </div>
  );
}

/** A variation in running text, its own variations in brackets. */
function Variation({ id }: { id: NodeId }) {
  const view = useDesk((state) => state.view);
  const line: GameNode[] = [];
  for (let next: NodeId | undefined = id; next !== undefined;) {
    const node = nodeOf(view.record.tree, next);
    line.push(node);
    [next] = node.children;
  }
  return (
    <>
      {line.map((node, index) => (
        <Fragment key={node.id}>
          {node.before && <span className="words">{node.before} </span>}
          <VariationMove node={node} numbered={index === 0} />{' '}
          {node.comment && <span className="words">{node.comment} </span>}
          {index > 0 &&
            view
              .node(node.parent!)
              .children.slice(1)
              .map((other) => (
                <Fragment key={other}>
                  <span className="soft">[</span>
                  <Variation id={other} />
                  <span className="soft">] </span>
                </Fragment>
              ))}
        </Fragment>
      ))}
    </>
  );
}

function VariationMove({ node, numbered }: { node: GameNode; numbered: boolean }) {
  const store = useDeskStore();
  const view = useDesk((state) => state.view);
  const current = useDesk((state) => state.node === node.id);
  const ref = useInSight(current);
  const text = useMoveText(node);
  const before = view.positionOf(node.parent!);
  const shown = numbered || (view.ruleset.numbering === 'move' && view.ruleset.side(before) === 0);
  return (
    <>
      {shown && <span className="soft">{numberText(view.ruleset, before)} </span>}
      <button
        ref={ref}
        type="button"
        className={current ? 'inline-move current' : 'inline-move'}
        aria-current={current ? 'step' : undefined}
        onClick={() => store.getState().goTo(node.id)}
      >
        {text}
        {(node.symbols ?? []).map((nag) => (
          <Sign key={nag} nag={nag} />
        ))}
      </button>
    </>
  );
}
