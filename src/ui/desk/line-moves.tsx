'use client';

import type { Position } from '@/core/game/ruleset';
import { Fragment, useRef, useState, type RefObject } from 'react';
import { createPortal } from 'react-dom';
import { useTranslations } from 'next-intl';
import type { AnswerLine } from '@/core/ask/question';
import { NULL_MOVE, type Move } from '@/core/game/move';
import { chanceOf } from '@/core/review/chance';
import { GameBoard } from '../board/game-board';
import { scoreText } from '../format';
import { readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { releaseAfterClick } from '../roving';
import type { BoardPlace } from './board-place';
import { useDesk } from './desk-store';

/** A position down a line that is looked at without going there. */
export interface Preview {
  position: Position;
  move: Move;
  text: string;
}

const MOST_MOVES = 10;

/** A line in a table of lines: what it is worth to the side to move, and its moves. */
export function LineCells({
  line: { score, moves },
  place,
  onPick,
  onPreview,
}: {
  line: AnswerLine;
  place: BoardPlace;
  onPick(length: number): void;
  onPreview(preview: Preview | null): void;
}) {
  const ruleset = useDesk(({ view }) => view.ruleset);
  const side = ruleset.side(place.position);
  return (
    <>
      <td className="score">{scoreText(score, side, ruleset)}</td>
      <td className="text-nowrap">{Math.round(chanceOf(ruleset.kind, score, side))} %</td>
      <td className="line">
        <LineMoves place={place} codes={moves} onPick={onPick} onPreview={onPreview} />
      </td>
    </>
  );
}

/** The moves of a line from what is on the board: each can be looked at on a small board, and picked. */
export function LineMoves({
  place,
  codes,
  passed = false,
  most = MOST_MOVES,
  onPick,
  onPreview,
}: {
  place: BoardPlace;
  codes: readonly string[];
  /** The line belongs to the side that is not to move: a threat. */
  passed?: boolean;
  /** As many of them as are shown. */
  most?: number;
  /** @param length how many moves, up to the one that was picked */
  onPick?: (length: number) => void;
  onPreview(preview: Preview | null): void;
}) {
  const ruleset = useDesk(({ view }) => view.ruleset);
  const notation = useShogiNotation();
  const start = passed ? ruleset.play(place.position, NULL_MOVE) : place.position;
  const line = readLine(ruleset, start, codes.slice(0, most), null, notation);
  return line.map(({ text, number, position, move }, index) => {
    const show = (): void => onPreview({ position, move, text });
    const hide = (): void => onPreview(null);
    return (
      <Fragment key={index}>
        {number !== null && !passed && <span className="soft">{number} </span>}
        <button
          type="button"
          className="inline-move"
          tabIndex={index === 0 ? 0 : -1}
          onMouseEnter={show}
          onMouseLeave={hide}
          onFocus={show}
          onBlur={hide}
          onClick={(event) => {
            releaseAfterClick(event);
            onPick?.(index + 1);
          }}
        >
          {text}
        </button>{' '}
      </Fragment>
    );
  });
}

const PREVIEW_SIZE = 264;

/** What shows lines in a card: `card` is its element, `preview` the board of the move that is looked at, `onPreview` says which. */
export function useLinePreview<Card extends HTMLElement>() {
  const card = useRef<Card>(null);
  const [looked, onPreview] = useState<Preview | null>(null);
  return { card, onPreview, preview: looked && <LinePreview preview={looked} beside={card} /> };
}

/** A small board to the left of a card, or under its top where there is no room. */
function LinePreview({
  preview: { position, move, text },
  beside,
}: {
  preview: Preview;
  beside: RefObject<HTMLElement | null>;
}) {
  const t = useTranslations('lines');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const flipped = useDesk((state) => state.flipped);
  const box = beside.current?.getBoundingClientRect();
  if (!box) return null;
  const left = Math.max(8, box.left - PREVIEW_SIZE - 8);
  const top = Math.min(Math.max(50, box.top), window.innerHeight - PREVIEW_SIZE - 8);
  return createPortal(
    <div
      className="line-preview"
      data-testid="line-preview"
      style={{ left, top, width: PREVIEW_SIZE, height: PREVIEW_SIZE }}
    >
      <GameBoard
        kind={ruleset.kind}
        position={position}
        flipped={flipped}
        lastMove={move}
        label={t('preview', { move: text })}
      />
    </div>,
    document.body,
  );
}
