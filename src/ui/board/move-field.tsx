'use client';

import { useState, type Ref } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Move } from '@/core/game/move';
import type { Ruleset } from '@/core/game/ruleset';
import { readClock } from '@/core/notation/comment-commands';
import { readMoveText } from '@/core/notation/read-move-text';

/** A move typed in, with the time spent behind it if the sheet has it: `Nf3`, `Nf3 2:15`. */
export function MoveField({
  ruleset,
  position,
  onMove,
  autoFocus = false,
  compact = false,
  label,
  fieldRef,
}: {
  ruleset: Ruleset;
  position: unknown;
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
  const say = useTranslations('problem');
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const enter = (): void => {
    const match = /^(.*?)(?:\s+(\d+:\d{2}(?::\d{2})?))?$/.exec(text.trim())!;
    if (match[1] === '') return;
    const reading = readMoveText(ruleset, position, match[1]!);
    if ('problem' in reading)
      return setProblem(
        say(`move.${reading.problem}`, {
          move: match[1]!,
          number: String(ruleset.moveNumber(position)),
          position: ruleset.write(position),
          nearby: reading.nearby.join(', '),
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
          placeholder={label ?? t(compact ? 'compactPlaceholder' : 'placeholder')}
          aria-invalid={problem !== null}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') event.currentTarget.blur();
          }}
        />
        {!compact && (
          <Button type="submit" variant="plain">
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
