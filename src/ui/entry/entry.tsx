'use client';

import { useEffect, useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTranslations } from 'next-intl';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Move } from '@/core/game/move';
import { GAME_KINDS, PositionError, type GameKind } from '@/core/game/ruleset';
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
import { redone, undone, type Document } from '../document';
import { useShortcuts } from '../use-shortcuts';
import { forgetDraft, keepDraft, lastKind, loadDraft, useDraftsRead } from './draft';
import { begunAnew, enter, enteredIn, openDraft } from './entered';
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
  const [first] = useState(() => openDraft(kind, draft));
  const [document, setDocument] = useState(first);
  const [choices, setChoices] = useState<Move[]>([]);
  const [flipped, setFlipped] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const notation = useShogiNotation();
  const { view } = document;
  const { start } = view.record.tree;
  const { line } = view;
  const form = useForm<Header>({
    resolver: zodResolver(headerSchema),
    defaultValues: draft.header,
  });
  useEffect(() => {
    if (kept) keepDraft(kind, { start, moves: enteredIn(document) });
  }, [kept, kind, start, document]);
  useEffect(() => {
    if (!kept) return;
    return form.subscribe({
      formState: { values: true },
      callback: ({ values }) => keepDraft(kind, { header: values }),
    });
  }, [kept, kind, form]);
  const position = view.positionOf(document.node);

  const show = (next: Document): void => {
    setChoices([]);
    setDocument(next);
  };
  const play = (move: Move, spent: number | null = null): void =>
    show(enter(document, { move, spent }));
  const input = useMoveInput(ruleset, position, (fitting) =>
    fitting.length === 1 ? play(fitting[0]!) : setChoices(fitting),
  );
  const takeBack = (): void => show(undone(document)?.document ?? document);
  const redo = (): void => show(redone(document)?.document ?? document);
  const restart = (setup: string): void => show(openDraft(kind, { start: setup, moves: [] }));
  useShortcuts({ 'mod+z': takeBack, 'mod+shift+z': redo, 'mod+y': redo });

  const save = async (header: Header): Promise<void> => {
    setFailure(null);
    const id = await saveGame({
      ...view.record,
      tags: tagsOf(kind, header),
      result: header.result,
    });
    if (id === null) return setFailure(t('notSaved'));
    forgetDraft(kind);
    router.push(`/games/${id}`);
  };

  const texts = line.map(({ move, parent }) =>
    moveText(ruleset, view.positionOf(parent!), move, view.moveTo(parent!), notation),
  );
  const last = view.moveTo(document.node);
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
            lastMove={last}
            label={boardLabel(position)}
            input={input}
          />
        </div>
        {choices.length > 0 && (
          <MoveChoice
            moves={choices}
            textOf={(move) => moveText(ruleset, position, move, last, notation)}
            onMove={(move) => play(move)}
          />
        )}
        <MoveField ruleset={ruleset} position={position} previous={last} onMove={play} autoFocus />
        <div className="step-buttons">
          <Button variant="plain" disabled={line.length === 0} onClick={takeBack}>
            {t('takeBack')}
          </Button>
          <Button variant="plain" disabled={document.undone.length === 0} onClick={redo}>
            {t('redo')}
          </Button>
          <Button
            variant="plain"
            disabled={line.length === 0}
            onClick={() => show(begunAnew(document))}
          >
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
              disabled={line.length > 0}
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
                disabled={line.length > 0}
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
            disabled={line.length > 0}
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
              disabled={line.length === 0 || form.formState.isSubmitting}
            >
              {t('save')}
            </Button>
            <span className="soft">
              {line.length === 0 ? t('saveHint') : t('entered', { moves: line.length })}
              {line.length > 0 && document === first && ` · ${t('takenUp')}`}
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
              const { id, parent, spent } = line[index]!;
              const before = view.positionOf(parent!);
              const numbered =
                ruleset.numbering === 'ply' || ruleset.side(before) === 0 || index === 0;
              return (
                <span key={id}>
                  {numbered && <span className="soft">{ruleset.moveNumber(before)}. </span>}
                  <span className="text-nowrap">{text}</span>{' '}
                  {spent !== undefined && <span className="soft small">{clockText(spent)} </span>}
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
