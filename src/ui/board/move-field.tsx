'use client';

import { useState, type Ref } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Move } from '@/core/game/move';
import type { Ruleset, Position } from '@/core/game/ruleset';
import { readClock } from '@/core/notation/comment-commands';
import { readMoveText } from '@/core/game/read-moves';
import { moveText } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useExampleLine } from '../use-example-line';

/** A move typed in, with the time spent behind it if the sheet has it: `Nf3`, `Nf3 2:15`. */
export function MoveField({
  ruleset,
  position,
  previous,
  onMove,
  autoFocus = false,
  compact = false,
  label,
  fieldRef,
}: {
  ruleset: Ruleset;
  position: Position;
  /** The move that led to the position; null at the start. */
  previous: Move | null;
  /** @param spent milliseconds, where they were given */
  onMove(move: Move, spent: number | null): void;
  autoFocus?: boolean;
  /** Without a button: the Enter key enters. */
  compact?: boolean;
  /** What the move is for, where it is not simply the next one. */
  label?: string;
  fieldRef?: Ref<HTMLInputElement>;
}) {
  const t = useTranslations('moveField');
  const [move] = useExampleLine(ruleset);
  const notation = useShogiNotation();
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  /** A text in squares alone tells nothing of how its writer writes moves. */
  const isCode = (written: string): boolean => ruleset.parseCode(written) !== null;
  /** A move that is suggested, as its reader likes to see moves. */
  const asShown = (suggested: string): string => {
    const reading = readMoveText(ruleset, position, suggested, previous);
    return 'move' in reading
      ? moveText(ruleset, position, reading.move, previous, notation)
      : suggested;
  };
  const enter = (): void => {
    const match = /^(.*?)(?:\s+(\d+:\d{2}(?::\d{2})?))?$/.exec(text.trim())!;
    if (match[1] === '') return;
    const reading = readMoveText(ruleset, position, match[1]!, previous);
    if ('problem' in reading)
      return setProblem(
        t(`problem.${reading.problem}`, {
          move: match[1]!,
          near: reading.nearby.length > 0 ? 'yes' : 'no',
          nearby: (isCode(match[1]!) ? reading.nearby.map(asShown) : reading.nearby).join(', '),
        }),
      );
    setProblem(null);
    setText('');
    onMove(reading.move, match[2] ? readClock(match[2]) : null);
  };
  return (
    <form
      className="move-field"
      onSubmit={(event) => {
        event.preventDefault();
        enter();
      }}
    >
      <div className="d-flex gap-2">
        <Form.Control
          ref={fieldRef}
          value={text}
          autoFocus={autoFocus}
          aria-label={label ?? t('move')}
          placeholder={
            label ?? (compact ? t('compactPlaceholder') : t('placeholder', { move: move! }))
          }
          aria-invalid={problem !== null}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') event.currentTarget.blur();
          }}
        />
        {!compact && (
          <Button type="submit" variant="plain" className="text-nowrap">
            {t('enter')}
          </Button>
        )}
      </div>
      {problem && (
        <p role="alert" className="mt-1 mb-0 small text-break">
          {problem}
        </p>
      )}
    </form>
  );
}
