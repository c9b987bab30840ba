'use client';

import type { Position } from '@/core/game/ruleset';
import { useState, type ReactNode } from 'react';
import { Dialog } from '../dialog/dialog';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import { replaceNext, toggleMark } from '@/core/game/edits';
import type { Move } from '@/core/game/move';
import { lineFrom, type Mark, type MarkColour, type NodeId } from '@/core/game/tree';
import type { BoardInput } from '../board/board-props';
import { MoveChoice } from '../board/move-choice';
import { useMoveInput } from '../board/use-move-input';
import { moveText } from '../move-text';
import { useShogiNotation } from '../preferences';
import { insertFrom, type BoardPlace } from './board-place';
import { newIdFor } from '../document';
import { useDesk, useDeskStore } from './desk-store';

/** A move that was entered where the sheet went on with another one. */
interface Added {
  at: NodeId;
  move: Move;
  /** Its own node, a variation so far. */
  node: NodeId;
}

/** Moves and marks made on the board of the Desk, and what there is to ask about them. */
export function useBoardEdits(place: BoardPlace): {
  input: BoardInput;
  banner: ReactNode;
  enter(move: Move, spent: number | null): void;
} {
  const { position, node } = place;
  const store = useDeskStore();
  const ruleset = useDesk(({ view }) => view.ruleset);
  // marks belong to moves of the sheet, not to lines that are only looked at
  const drawing = useDesk((state) => (state.excursion ? null : state.drawing));
  const notation = useShogiNotation();
  const [choices, setChoices] = useState<{ position: Position; moves: Move[] } | null>(null);
  const [added, setAdded] = useState<Added | null>(null);

  const enter = (move: Move, spent: number | null = null): void => {
    setChoices(null);
    const { view, edit, pinning, pin } = store.getState();
    if (pinning) return pin(place.name, ruleset.code(move));
    const { steps, node: last } = insertFrom(view.record, place, [ruleset.code(move)]);
    const timed = spent === null ? [] : [annotateSpent(last, spent)];
    edit({ steps: [...steps, ...timed], node: last });
    const isVariation = steps.length > 0 && view.node(node).children.length > 0;
    setAdded(isVariation && place.way.length === 0 ? { at: node, move, node: last } : null);
  };
  const moves = useMoveInput(ruleset, position, (fitting) =>
    fitting.length === 1 ? enter(fitting[0]!) : setChoices({ position, moves: fitting }),
  );
  const mark = (made: Mark): void => {
    const { view, node: at, edit } = store.getState();
    edit(toggleMark(view.record.tree, at, made));
  };
  const banner =
    choices?.position === position ? (
      <MoveChoice
        moves={choices!.moves}
        textOf={(move) => moveText(ruleset, position, move, null, notation)}
        onMove={(move) => enter(move)}
      />
    ) : added?.node === node ? (
      <AddedBanner added={added} onReplaced={() => setAdded(null)} />
    ) : null;
  return { input: drawing ? markInput(drawing, mark) : moves, banner, enter };
}

const annotateSpent = (node: NodeId, value: number) =>
  ({ type: 'annotate', node, field: 'spent', value }) as const;

/** While a colour is drawn in: a click makes a circle, a drag an arrow. */
const markInput = (colour: MarkColour, mark: (made: Mark) => void): BoardInput => ({
  source: null,
  targets: [],
  onSquare: (square) => mark({ colour, square }),
  onHand: () => undefined,
  canCarry: (source) => 'square' in source,
  carries: 'arrow',
  onCarry: (source, to) => 'square' in source && mark({ colour, square: source.square, to }),
});

function AddedBanner({ added, onReplaced }: { added: Added; onReplaced(): void }) {
  const t = useTranslations('desk');
  const store = useDeskStore();
  const view = useDesk((state) => state.view);
  const notation = useShogiNotation();
  const [asking, setAsking] = useState(false);
  const [next] = view.node(added.at).children;
  if (next === undefined || next === added.node) return null;
  const text = moveText(
    view.ruleset,
    view.positionOf(added.at),
    view.node(next).move,
    view.moveTo(added.at),
    notation,
  );
  const replace = (): void => {
    const { view: now, edit } = store.getState();
    edit(replaceNext(now.record.tree, added.at, added.move, newIdFor(now.record.tree)));
    onReplaced();
  };
  return (
    <div className="line-banner" role="status">
      {t('added')}
      <Button variant="plain" className="ms-auto" onClick={() => setAsking(true)}>
        {t('replaceNext', { move: text })}
      </Button>
      {asking && (
        <Dialog title={t('replaceTitle', { move: text })} onClose={() => setAsking(false)}>
          <p>{t('replaceText', { count: 1 + lineFrom(view.record.tree, next).length })}</p>
          <div className="d-flex gap-2 justify-content-end">
            <Button variant="plain" onClick={() => setAsking(false)}>
              {t('cancel')}
            </Button>
            <Button variant="seal" onClick={replace}>
              {t('replace')}
            </Button>
          </div>
        </Dialog>
      )}
    </div>
  );
}
