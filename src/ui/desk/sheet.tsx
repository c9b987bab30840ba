'use client';

import { createContext, Fragment, memo, useContext, useEffect, useMemo, useRef } from 'react';
import { useTranslations } from 'next-intl';
import type { Departure } from '@/contract/bases';
import { HASTY_MS } from '@/core/game/clock';
import { lineFrom, ROOT, type GameNode, type NodeId } from '@/core/game/tree';
import { isPointedOut } from '@/core/review/annotate';
import type { MoveReview } from '@/core/review/review';
import { wholeLoss } from '@/core/review/chance';
import { isRemarked, shownVerdict, type Remarks } from '@/core/review/remarks';
import { isFind, isFlag, type Verdict } from '@/core/review/verdict';
import type { Score } from '@/core/game/score';
import type { Side } from '@/core/game/ruleset';
import { clockText, scoreText } from '../format';
import { moveText, numberText } from '../move-text';
import { usePreferences, useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { CauseOf } from './cause';
import { useReview } from './desk-review';
import { useDesk, useDeskStore, useIsCurrent, type Writing } from './desk-store';
import type { GameView } from '../game-view';
import { InlineLine } from './inline-line';
import { resultKey } from '../result-key';
import { useDeparture } from './use-departures';
import { useMateText } from './use-mate-text';
import { useSeenText } from './use-seen-text';
import { Sign, signsOf } from './sign';
import { Words } from './words';

/** What a move of the main line shows. */
interface Cell {
  node: GameNode;
  ply: number;
  spent: number | null;
  verdict: Verdict | undefined;
  /** What it left, where that is to be shown. */
  score: Score | null;
  /** It left the base of this name. */
  leaves: string | null;
}

/** A row of the sheet, or what stands between rows. */
type Item =
  | { type: 'row'; number: string; first: Cell | null; second: Cell | null }
  | { type: 'before'; node: GameNode }
  | {
      type: 'under';
      node: GameNode;
      found: MoveReview | null;
      /** Its error is one's own, or nobody's in particular. */
      isOwn: boolean;
      spent: number | null;
      /** All nodes that it shows; what it shows changes only with one of them. */
      shown: readonly GameNode[];
      /** What is being written at one of them. */
      writing: Writing | null;
    };

/** There is something to be said under a move, which signs alone do not say. */
const isSaid = (found: MoveReview | null, remarks: Remarks): found is MoveReview =>
  found !== null &&
  isRemarked(found, remarks) &&
  (remarks.form !== 'symbols' || hasBetter(found, remarks.lineMoves));

function withAllBelow(view: GameView, ids: readonly NodeId[]): GameNode[] {
  const nodes: GameNode[] = [];
  const pending = [...ids];
  while (pending.length > 0) {
    const node = view.node(pending.pop()!);
    nodes.push(node);
    pending.push(...node.children);
  }
  return nodes;
}

/** The main line in rows of two, broken where something stands before or under a move. */
function itemsOf(
  view: GameView,
  reviews: readonly (MoveReview | null)[],
  writing: Writing | null,
  remarks: Remarks,
  ownSide: Side | null,
  departure: Departure | null,
): Item[] {
  const items: Item[] = [];
  let row: Extract<Item, { type: 'row' }> | null = null;
  view.line.forEach((node, index) => {
    const before = view.positionOf(node.parent!);
    const second = view.ruleset.side(before) === 1;
    const found = reviews[index] ?? null;
    const ply = index + 1;
    const spent = view.timeAtPly(ply)?.spent ?? null;
    const written = writing?.node === node.id ? writing.field : null;
    if (node.before !== undefined || written === 'before') {
      items.push({ type: 'before', node });
      row = null;
    }
    if (!second || row === null) {
      const number = String(view.ruleset.moveNumber(before));
      row = { type: 'row', number, first: null, second: null };
      items.push(row);
    }
    const verdict = found ? shownVerdict(found, remarks) : undefined;
    const score = remarks.evaluations ? (found?.playedScore ?? null) : null;
    const leaves = departure?.ply === ply ? departure.base.name : null;
    row[second ? 'second' : 'first'] = { node, ply, spent, verdict, score, leaves };
    if (second) row = null;
    const [, ...variations] = view.node(node.parent!).children;
    const remarked =
      node.comment !== undefined || node.lesson !== undefined || node.cause !== undefined;
    const opened = written === 'comment' || written === 'lesson';
    if (!remarked && !opened && variations.length === 0 && !isSaid(found, remarks)) return;
    const shown = [node, ...withAllBelow(view, variations)];
    items.push({
      type: 'under',
      node,
      found: isSaid(found, remarks) ? found : null,
      isOwn: ownSide === null || found?.side === ownSide,
      spent,
      shown,
      writing: writing && shown.some(({ id }) => id === writing.node) ? writing : null,
    });
    row = null;
  });
  return items;
}

/** What a sweep says of moves of variations; it changes only with a sweep. */
const VariationFindings = createContext<ReadonlyMap<NodeId, MoveReview>>(new Map());

/** The game's score: moves in two columns, words and variations under the move they belong to. */
export function Sheet() {
  const t = useTranslations('sheet');
  const view = useDesk((state) => state.view);
  const results = useTranslations('results');
  const writing = useDesk((state) => state.writing);
  const atStart = useIsCurrent(ROOT);
  const { review, variations, ownSide } = useReview();
  const remarks = usePreferences((state) => state.remarks);
  const departure = useDeparture();
  const items = useMemo(
    () => itemsOf(view, review?.moves ?? [], writing, remarks, ownSide, departure),
    [view, review, writing, remarks, ownSide, departure],
  );
  return (
    <div
      className="sheet-scroll"
      // a move is the stop for the tab key, but for the start, which is none
      tabIndex={atStart ? 0 : -1}
      role="region"
      aria-label={t('label')}
    >
      <div className="sheet-rows">
        <Words node={view.node(ROOT)} field="comment" writing={writing} />
        <Words node={view.node(ROOT)} field="lesson" writing={writing} />
        <VariationFindings value={variations}>
          {items.map((item) => {
            switch (item.type) {
              case 'row':
                return <Row key={(item.first ?? item.second)!.node.id} {...item} />;
              case 'before':
                return (
                  <div key={`before-${item.node.id}`} className="under before">
                    <Words node={item.node} field="before" writing={writing} />
                  </div>
                );
              case 'under':
                return <Under key={`under-${item.node.id}`} {...item} />;
            }
          })}
        </VariationFindings>
        {view.line.length === 0 && <p className="soft">{t('noMoves')}</p>}
      </div>
      <p className="mt-2 mb-0 text-center">
        {view.record.result !== '*' && results(resultKey(view.info, view.record.result))}
      </p>
    </div>
  );
}

const isSameCell = (one: Cell | null, other: Cell | null): boolean =>
  one?.node === other?.node &&
  one?.ply === other?.ply &&
  one?.spent === other?.spent &&
  one?.verdict === other?.verdict &&
  one?.score === other?.score &&
  one?.leaves === other?.leaves;

/** Two moves of the main line; an edit elsewhere leaves it alone. */
const Row = memo(
  function Row({ number, first, second }: Extract<Item, { type: 'row' }>) {
    return (
      <div className="row-of-two">
        <span className="number">{number}</span>
        {first ? <SheetMove {...first} /> : <span className="move soft">…</span>}
        {second ? <SheetMove {...second} /> : <span className="move" />}
      </div>
    );
  },
  (before, now) =>
    before.number === now.number &&
    isSameCell(before.first, now.first) &&
    isSameCell(before.second, now.second),
);

/** The move's text; it depends on the moves before it, which never change. */
function useMoveText(node: GameNode): string {
  const store = useDeskStore();
  const notation = useShogiNotation();
  return useMemo(() => {
    const { view } = store.getState();
    const parent = node.parent!;
    const previous = view.moveTo(parent);
    return moveText(view.ruleset, view.positionOf(parent), node.move, previous, notation);
  }, [store, node, notation]);
}

/** Keeps the current move in sight without moving the page, and the focus on it where it is inside the sheet. */
function useInSight(current: boolean) {
  const ref = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const element = ref.current;
    const scroller = element?.closest('.sheet-scroll');
    if (!current || !element || !scroller) return;
    const focused = document.activeElement;
    if (
      focused !== element &&
      focused?.matches('.sheet-scroll, .sheet-scroll .move, .sheet-scroll .variation-move')
    )
      element.focus({ preventScroll: true });
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

const SheetMove = memo(function SheetMove({ node, ply, spent, verdict, score, leaves }: Cell) {
  const t = useTranslations('base');
  const store = useDeskStore();
  const current = useIsCurrent(node.id);
  const ref = useInSight(current);
  const text = useMoveText(node);
  return (
    <button
      ref={ref}
      type="button"
      className={current ? 'move current' : 'move'}
      aria-current={current ? 'step' : undefined}
      tabIndex={current ? 0 : -1}
      data-ply={ply}
      onClick={() => store.getState().goTo(node.id)}
    >
      <span>{text}</span>
      {signsOf(node.symbols, verdict).map((nag) => (
        <Sign key={nag} nag={nag} />
      ))}
      {score && <Evaluation score={score} />}
      {leaves !== null && (
        <span className="leaves" title={t('leaves', { base: leaves })}>
          <span className="visually-hidden">{t('leaves', { base: leaves })}</span>
        </span>
      )}
      {spent !== null && <span className="seconds">{clockText(spent)}</span>}
    </button>
  );
});

/** What a move left, from the view of the first side. */
function Evaluation({ score }: { score: Score }) {
  const t = useTranslations('sheet');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const sideName = useSideName(ruleset);
  return (
    <span className="evaluation" title={t('evaluation', { side: sideName(0) })}>
      {scoreText(score, 0, ruleset)}
    </span>
  );
}

/** What stands under a move: what it cost and the better line, the player's words, variations. */
const Under = memo(
  function Under({ node, found, isOwn, spent, writing }: Extract<Item, { type: 'under' }>) {
    const store = useDeskStore();
    const [, ...variations] = store.getState().view.node(node.parent!).children;
    return (
      <div className="under">
        {found && <Finding node={node} found={found} spent={spent} />}
        {(node.cause || (found && isOwn && isFlag(found.verdict))) && <CauseOf node={node} />}
        <Words node={node} field="comment" writing={writing} />
        <Words node={node} field="lesson" writing={writing} />
        {variations.map((id) => (
          <div key={id}>
            <Variation id={id} writing={writing} />
          </div>
        ))}
      </div>
    );
  },
  (before, now) =>
    before.found === now.found &&
    before.isOwn === now.isOwn &&
    before.spent === now.spent &&
    before.writing === now.writing &&
    before.shown.length === now.shown.length &&
    before.shown.every((node, index) => node === now.shown[index]),
);

function Finding({
  node,
  found,
  spent,
}: {
  node: GameNode;
  found: MoveReview;
  spent: number | null;
}) {
  const t = useTranslations('finding');
  const seenText = useSeenText();
  const mateText = useMateText();
  const { lineMoves, form } = usePreferences((state) => state.remarks);
  const isError = !isFind(found.verdict);
  const { othersHold: holding } = found;
  const others = found.linesKnown - (found.rank === null ? 0 : 1);
  const facts = [
    ...mateText(found),
    ...(isError && found.linesKnown > 1
      ? [
          found.rank === null
            ? t('outside', { lines: found.linesKnown })
            : t('rank', { rank: found.rank }),
          holding < others
            ? t('othersHold', { count: holding })
            : t('manyHold', { count: holding }),
        ]
      : []),
    ...(found.seen ? [seenText(found.seen)] : []),
    ...(found.isTurningPoint ? [t('turningPoint')] : []),
    ...(found.isUnsettled ? [t('unsettled')] : []),
    ...(spent !== null && spent < HASTY_MS
      ? [t('seconds', { seconds: Math.round(spent / 1000) })]
      : []),
  ];
  const loss = wholeLoss(found.loss);
  const cost =
    form === 'words' && isFlag(found.verdict)
      ? t(`words.${found.verdict as 'mistake'}`, { loss })
      : t('cost', { loss });
  return (
    <div>
      {form !== 'symbols' && (
        <>
          <strong>{isError ? cost : t('onlyMove')}</strong> · {facts.join(' · ')}
        </>
      )}
      {hasBetter(found, lineMoves) && (
        <div>
          <BetterLine node={node} found={found} />
        </div>
      )}
    </div>
  );
}

/** A better line is known, and wanted. */
const hasBetter = ({ betterLine }: MoveReview, lineMoves: number): boolean =>
  betterLine.length > 0 && lineMoves > 0;

function BetterLine({ node, found }: { node: GameNode; found: MoveReview }) {
  const t = useTranslations('finding');
  const isCurrent = useIsCurrent(node.id);
  const { lineMoves } = usePreferences((state) => state.remarks);
  return (
    <>
      <span className="soft">{t('better')} </span>
      <InlineLine
        base={node.parent!}
        codes={found.betterLine}
        most={lineMoves}
        isStop={isCurrent}
      />
    </>
  );
}

/** A variation in running text, its own variations in brackets; folded up, its first move only. */
function Variation({ id, writing }: { id: NodeId; writing: Writing | null }) {
  const t = useTranslations('sheet');
  const store = useDeskStore();
  const folded = useDesk((state) => state.folded.has(id));
  const isCurrent = useIsCurrent(id);
  const { view } = store.getState();
  const { tree } = view.record;
  const line = [view.node(id), ...lineFrom(tree, id)];
  /** Other moves than this one of the line, but for the first. */
  const othersOf = (index: number): readonly NodeId[] =>
    index > 0 ? view.node(line[index]!.parent!).children.slice(1) : [];
  /** Whether something stands between a move and the one before, so that its number is told anew. */
  const isApart = (index: number): boolean => {
    const before = line[index - 1];
    const remarked = line[index]!.before !== undefined || before?.comment !== undefined;
    return index === 0 || remarked || othersOf(index - 1).length > 0;
  };
  const fold = (
    <button
      type="button"
      className="inline-move soft"
      tabIndex={isCurrent ? 0 : -1}
      aria-expanded={!folded}
      aria-label={t(folded ? 'unfold' : 'fold')}
      onClick={() => store.getState().fold(id)}
    >
      {folded ? '+' : '–'}
    </button>
  );
  if (folded)
    return (
      <>
        {fold} <VariationMove node={line[0]!} numbered />{' '}
        <span className="soft">
          {t('foldedMoves', { count: withAllBelow(view, [id]).length - 1 })}
        </span>
      </>
    );
  return (
    <>
      {line.length > 1 && fold}{' '}
      {line.map((node, index) => (
        <Fragment key={node.id}>
          <Words node={node} field="before" writing={writing} inline />
          <VariationMove node={node} numbered={isApart(index)} />{' '}
          <Words node={node} field="comment" writing={writing} inline />
          <Words node={node} field="lesson" writing={writing} inline />
          {othersOf(index).map((other) => (
            <Nested key={other} id={other} writing={writing} />
          ))}
        </Fragment>
      ))}
    </>
  );
}

/** A nested variation of more moves stands on lines of its own. */
const MOST_INLINE = 12;

function Nested({ id, writing }: { id: NodeId; writing: Writing | null }) {
  const store = useDeskStore();
  if (withAllBelow(store.getState().view, [id]).length > MOST_INLINE)
    return (
      <div className="nested">
        <Variation id={id} writing={writing} />
      </div>
    );
  return (
    <>
      <span className="soft">[</span>
      <Variation id={id} writing={writing} />
      <span className="soft">] </span>
    </>
  );
}

const VariationMove = memo(function VariationMove({
  node,
  numbered,
}: {
  node: GameNode;
  numbered: boolean;
}) {
  const store = useDeskStore();
  const current = useIsCurrent(node.id);
  const ref = useInSight(current);
  const text = useMoveText(node);
  const found = useContext(VariationFindings).get(node.id);
  const remarks = usePreferences((state) => state.remarks);
  const failing = found && isPointedOut(node, found, remarks) ? found : null;
  const { view } = store.getState();
  const before = view.positionOf(node.parent!);
  const shown = numbered || (view.ruleset.numbering === 'move' && view.ruleset.side(before) === 0);
  return (
    <>
      {shown && <span className="soft">{numberText(view.ruleset, before)} </span>}
      <button
        ref={ref}
        type="button"
        className={current ? 'inline-move variation-move current' : 'inline-move variation-move'}
        aria-current={current ? 'step' : undefined}
        tabIndex={current ? 0 : -1}
        onClick={() => store.getState().goTo(node.id)}
      >
        {text}
        {signsOf(node.symbols, failing?.verdict).map((nag) => (
          <Sign key={nag} nag={nag} />
        ))}
      </button>
      {failing && remarks.form !== 'symbols' && <Failure node={node} found={failing} />}
    </>
  );
});

/** What a move of a variation costs, and the better line. */
function Failure({ node, found }: { node: GameNode; found: MoveReview }) {
  const t = useTranslations('finding');
  const { lineMoves } = usePreferences((state) => state.remarks);
  const loss = wholeLoss(found.loss);
  return (
    <span className="failure">
      {' ('}
      <strong title={t('cost', { loss })}>{t('points', { loss })}</strong>
      {hasBetter(found, lineMoves) && (
        <>
          {', '}
          <BetterLine node={node} found={found} />
        </>
      )}
      {') '}
    </span>
  );
}
