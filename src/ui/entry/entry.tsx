'use client';

import { useEffect, useMemo, useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Move } from '@/core/game/move';
import { GAME_KINDS, PositionError, type GameKind } from '@/core/game/ruleset';
import { ROOT, TreeBuilder } from '@/core/game/tree';
import { rulesetOf } from '@/core/rulesets';
import { GameBoard } from '../board/game-board';
import { MoveChoice } from '../board/move-choice';
import { MoveField } from '../board/move-field';
import { useBoardLabel } from '../board/use-board-label';
import { useMoveInput } from '../board/use-move-input';
import { clockText } from '../format';
import { moveText } from '../move-text';
import { useShogiNotation } from '../preferences';
import { saveGame } from '../save-game';
import { headerSchema, tagsOf, type Header } from '../game-header';
import { HeaderFields } from '../header-fields';
import { forgetDraft, keepDraft, lastKind, loadDraft, useDraftsRead, type Entered } from './draft';
import { useExampleLine } from '../use-example-line';

/** A game entered by hand from a paper score sheet; `asked`: which game, where that is known. */
export function Entry({ asked }: { asked: GameKind | null }) {
  const ready = useDraftsRead();
  const [chosen, setChosen] = useState(asked);
  const kind = chosen ?? lastKind();
  return <EntryOf key={`${kind} ${ready}`} kind={kind} kept={ready} onKind={setChosen} />;
}

/** On the board or by typing moves, with what the sheet's head says. */
function EntryOf({
  kind,
  kept,
  onKind,
}: {
  kind: GameKind;
  /** Whether what is entered is kept in the browser; not before what was kept has been read. */
  kept: boolean;
  onKind(kind: GameKind): void;
}) {
  const t = useTranslations('entry');
  const say = useTranslations('problem');
  const handicaps = useTranslations('handicaps');
  const router = useRouter();
  const ruleset = rulesetOf(kind);
  const [draft] = useState(() => loadDraft(kind));
  const [start, setStart] = useState(draft.start);
  const [moves, setMoves] = useState(draft.moves);
  const [taken, setTaken] = useState<readonly Entered[]>([]);
  const [choices, setChoices] = useState<Move[]>([]);
  const [flipped, setFlipped] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const notation = useShogiNotation();
  const form = useForm<Header>({
    resolver: zodResolver(headerSchema),
    defaultValues: draft.header,
  });
  useEffect(() => {
    if (kept) keepDraft(kind, { start, moves });
  }, [kept, kind, start, moves]);
  useEffect(() => {
    if (!kept) return;
    return form.subscribe({
      formState: { values: true },
      callback: ({ values }) => keepDraft(kind, { header: values }),
    });
  }, [kept, kind, form]);
  const positions = useMemo(() => {
    const along = [ruleset.start(start)];
    for (const { move } of moves) along.push(ruleset.play(along.at(-1)!, move));
    return along;
  }, [ruleset, start, moves]);
  const position = positions.at(-1)!;

  const play = (move: Move, spent: number | null = null): void => {
    setChoices([]);
    setTaken([]);
    setMoves([...moves, { move, spent }]);
  };
  const input = useMoveInput(ruleset, position, (fitting) =>
    fitting.length === 1 ? play(fitting[0]!) : setChoices(fitting),
  );
  const takeBack = (): void => {
    setChoices([]);
    setTaken([...taken, ...moves.slice(-1)]);
    setMoves(moves.slice(0, -1));
  };
  const redo = (): void => {
    setMoves([...moves, ...taken.slice(-1)]);
    setTaken(taken.slice(0, -1));
  };
  const restart = (setup: string): void => {
    setStart(setup);
    setMoves([]);
    setTaken([]);
    setChoices([]);
  };
  /** All moves are taken back, to be put forward again if that was a mistake. */
  const beginAnew = (): void => {
    setChoices([]);
    setTaken([...taken, ...moves.toReversed()]);
    setMoves([]);
  };

  const save = async (header: Header): Promise<void> => {
    setFailure(null);
    const tree = new TreeBuilder(kind, start);
    let node = ROOT;
    for (const { move, spent } of moves) {
      node = tree.add(node, move);
      if (spent !== null) tree.node(node).spent = spent;
    }
    const id = await saveGame({
      tree: tree.build(),
      tags: tagsOf(kind, header),
      result: header.result,
      end: null,
    });
    if (id === null) return setFailure(t('notSaved'));
    forgetDraft(kind);
    router.push(`/games/${id}`);
  };

  const texts = moves.map(({ move }, index) =>
    moveText(ruleset, positions[index]!, move, moves[index - 1]?.move ?? null, notation),
  );
  const boardLabel = useBoardLabel(ruleset);
  const [example] = useExampleLine(ruleset);
  return (
    <div className="entry">
      <section aria-label={t('board')}>
        <div className="board-frame">
          <GameBoard
            kind={kind}
            position={position}
            flipped={flipped}
            lastMove={moves.at(-1)?.move ?? null}
            label={boardLabel(position)}
            input={input}
          />
        </div>
        {choices.length > 0 && (
          <MoveChoice
            moves={choices}
            textOf={(move) =>
              moveText(ruleset, position, move, moves.at(-1)?.move ?? null, notation)
            }
            onMove={(move) => play(move)}
          />
        )}
        <MoveField
          ruleset={ruleset}
          position={position}
          previous={moves.at(-1)?.move ?? null}
          onMove={play}
          autoFocus
        />
        <div className="step-buttons">
          <Button variant="plain" disabled={moves.length === 0} onClick={takeBack}>
            {t('takeBack')}
          </Button>
          <Button variant="plain" disabled={taken.length === 0} onClick={redo}>
            {t('redo')}
          </Button>
          <Button variant="plain" disabled={moves.length === 0} onClick={beginAnew}>
            {t('beginAnew')}
          </Button>
          <Button variant="plain" onClick={() => setFlipped(!flipped)}>
            {t('flip')}
          </Button>
        </div>
      </section>
      <section className="d-flex flex-column gap-3">
        <div className="d-flex gap-3 flex-wrap align-items-end">
          <label>
            <span className="form-label d-block">{t('game')}</span>
            <Form.Select
              value={kind}
              disabled={moves.length > 0}
              onChange={(event) => onKind(event.target.value as GameKind)}
            >
              {GAME_KINDS.map((one) => (
                <option key={one} value={one}>
                  {t(one)}
                </option>
              ))}
            </Form.Select>
          </label>
          {ruleset.handicaps.length > 0 && (
            <label>
              <span className="form-label d-block">{t('handicap')}</span>
              <Form.Select
                value={start}
                disabled={moves.length > 0}
                onChange={(event) => restart(event.target.value)}
              >
                {ruleset.handicaps.map(({ name, start: odds }) => (
                  <option key={name} value={odds}>
                    {handicaps(name as 'even')}
                  </option>
                ))}
              </Form.Select>
            </label>
          )}
          <StartField
            kind={kind}
            disabled={moves.length > 0}
            onStart={(text) => {
              try {
                restart(ruleset.write(ruleset.start(text)));
                return null;
              } catch (error) {
                return error instanceof PositionError
                  ? say(error.code as 'file.empty', error.params)
                  : String(error);
              }
            }}
          />
        </div>
        <form className="row g-2" onSubmit={(event) => void form.handleSubmit(save)(event)}>
          <HeaderFields kind={kind} form={form} />
          <div className="col-12 d-flex gap-2 align-items-center">
            <Button
              type="submit"
              variant="seal"
              disabled={moves.length === 0 || form.formState.isSubmitting}
            >
              {t('save')}
            </Button>
            <span className="soft">
              {moves.length === 0 ? t('saveHint') : t('entered', { moves: moves.length })}
              {moves.length > 0 && moves === draft.moves && ` · ${t('takenUp')}`}
            </span>
            {failure && <span role="alert">{failure}</span>}
          </div>
        </form>
        <div
          className="quiet-box"
          aria-live="polite"
          aria-label={t('moves')}
          data-testid="entered-moves"
        >
          {texts.length === 0 ? (
            <span className="soft">
              {t('howTo', { move: example!, code: ruleset.exampleLine[0]! })}
            </span>
          ) : (
            texts.map((text, index) => {
              const numbered =
                ruleset.numbering === 'ply' || ruleset.side(positions[index]!) === 0 || index === 0;
              return (
                <span key={index}>
                  {numbered && (
                    <span className="soft">{ruleset.moveNumber(positions[index]!)}. </span>
                  )}
                  <span className="text-nowrap">{text}</span>{' '}
                  {moves[index]!.spent !== null && (
                    <span className="soft small">{clockText(moves[index]!.spent!)} </span>
                  )}
                </span>
              );
            })
          )}
        </div>
      </section>
    </div>
  );
}

function StartField({
  kind,
  disabled,
  onStart,
}: {
  kind: GameKind;
  disabled: boolean;
  onStart(text: string): string | null;
}) {
  const t = useTranslations('entry');
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <label className="flex-grow-1">
      <span className="form-label d-block">
        {t('start', { format: rulesetOf(kind).positionFormat })}
      </span>
      <Form.Control
        disabled={disabled}
        placeholder={t('ordinary')}
        onChange={(event) => {
          const text = event.target.value.trim();
          setProblem(text === '' ? onStart(rulesetOf(kind).startText) : onStart(text));
        }}
      />
      {problem && (
        <span role="alert" className="small">
          {problem}
        </span>
      )}
    </label>
  );
}
