'use client';

import { firstFailure, goOver, type CalculatedMove } from '@/core/ask/go-over';
import { wholeLoss } from '@/core/review/chance';
import { useEffect, useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { readMoveList } from '@/core/game/read-moves';
import { readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { insertFrom, type BoardPlace } from './board-place';
import { useExampleLine } from '../use-example-line';
import { useCardPlace } from './card-place';
import { DeskCard } from './desk-card';
import { useDesk, useDeskStore } from './desk-store';
import { LineMoves, useLinePreview } from './line-moves';
import { usePlan } from './use-plan';

const DEPTH = 12;

/** The line that the player saw during the game, gone over move by move up to the first that fails. */
export function CalculationCard() {
  const t = useTranslations('calculation');
  const store = useDeskStore();
  const ruleset = useDesk(({ view }) => view.ruleset);
  const place = useCardPlace();
  const { run, stop, busy, failed } = usePlan(ruleset.kind);
  const [text, setText] = useState('');
  const [problem, setProblem] = useState(false);
  const [result, setResult] = useState<{
    place: BoardPlace;
    steps: readonly CalculatedMove[];
    codes: string[];
  } | null>(null);
  useEffect(() => stop, [stop, place.name]);
  const example = useExampleLine(ruleset).join(' ');
  const shown = result?.place.name === place.name ? result : null;

  const start = async (): Promise<void> => {
    const moves = readMoveList(ruleset, place.position, text, place.move);
    setProblem(moves === null);
    if (!moves) return;
    const positions = [...place.history, place.position];
    const line = moves.map((move) => {
      const position = positions.at(-1)!;
      const asked = {
        code: ruleset.code(move),
        side: ruleset.side(position),
        root: ruleset.searchRoot(position, positions.slice(0, -1)),
      };
      positions.push(ruleset.play(position, move));
      return asked;
    });
    const codes = line.map(({ code }) => code);
    setResult({ place, steps: [], codes });
    const show = (steps: readonly CalculatedMove[]): void => setResult({ place, steps, codes });
    await run(goOver(ruleset.kind, line, DEPTH), show);
  };
  const insert = (): void => {
    const { view, node, edit } = store.getState();
    edit({ steps: insertFrom(view.record, place, shown?.codes ?? []).steps, node });
  };
  return (
    <DeskCard
      name="calculation"
      title={t('title')}
      headline={
        shown && shown.steps.length > 0
          ? t(firstFailure(shown.steps) < 0 ? 'headlineHolds' : 'headlineFails', {
              move: firstFailure(shown.steps) + 1,
              moves: shown.codes.length,
            })
          : t('headlineNone')
      }
    >
      <form
        className="d-flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void start();
        }}
      >
        <Form.Control
          size="sm"
          value={text}
          aria-label={t('field')}
          placeholder={t('placeholder', { line: example })}
          aria-invalid={problem}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit" variant="plain" className="text-nowrap" disabled={busy}>
          {busy ? t('busy') : t('check')}
        </Button>
      </form>
      {problem && (
        <p role="alert" className="small m-0">
          {t('illegal', { line: example })}
        </p>
      )}
      {failed && <p role="alert">{t('failed')}</p>}
      {shown && shown.steps.length > 0 && (
        <Outcome
          place={place}
          steps={shown.steps}
          codes={shown.codes}
          busy={busy}
          onInsert={insert}
        />
      )}
    </DeskCard>
  );
}

function Outcome({
  place,
  steps,
  codes,
  busy,
  onInsert,
}: {
  place: BoardPlace;
  steps: readonly CalculatedMove[];
  codes: readonly string[];
  busy: boolean;
  onInsert(): void;
}) {
  const t = useTranslations('calculation');
  const ruleset = useDesk(({ view }) => view.ruleset);
  const notation = useShogiNotation();
  const { card, onPreview, preview } = useLinePreview<HTMLDivElement>();
  const line = readLine(ruleset, place.position, codes, null, notation);
  const failed = firstFailure(steps);
  const failure = steps[failed];
  const before = failed <= 0 ? place.position : line[failed - 1]!.position;
  const own = failure?.side === ruleset.side(place.position);
  return (
    <div ref={card} className="mt-1" data-testid="calculation">
      <p className="m-0">
        {line.map(({ text, number }, index) => (
          <span
            key={index}
            className={index === failed ? 'sign mistake' : index < steps.length ? '' : 'soft'}
          >
            {number} {text}
            {index < steps.length && index !== failed ? ' ✓' : ''}
            {index === failed ? ' ?' : ''}{' '}
          </span>
        ))}
      </p>
      {failure ? (
        <>
          <p className="m-0" role="status">
            {t(own ? 'ownFails' : 'replyUnseen', {
              move: line[failed]!.text,
              loss: wholeLoss(failure.loss),
            })}
          </p>
          <p className="m-0">
            <span className="soft">{t(own ? 'better' : 'unseen')} </span>
            <LineMoves
              place={{ ...place, position: before }}
              codes={failure.better.moves}
              onPreview={onPreview}
            />
          </p>
          {own && failure.played.moves.length > 1 && (
            <p className="m-0">
              <span className="soft">{t('because')} </span>
              <LineMoves
                place={{ ...place, position: before }}
                codes={failure.played.moves}
                onPreview={onPreview}
              />
            </p>
          )}
        </>
      ) : (
        !busy && (
          <p className="m-0" role="status">
            {t('holds', { moves: steps.length })}
          </p>
        )
      )}
      <Button variant="plain" onClick={onInsert}>
        {t('insert')}
      </Button>
      {preview}
    </div>
  );
}
