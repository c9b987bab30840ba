'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Eraser } from 'react-bootstrap-icons';
import {
  GAME_KINDS,
  PositionError,
  type GameKind,
  type Ruleset,
  type Side,
  type Position,
} from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import type { BoardInput } from '../board/board-props';
import { GameBoard } from '../board/game-board';
import { GamePiece } from '../board/game-piece';
import { useBoardLabel, usePieceName } from '../board/use-board-label';
import { deskHref } from '../desk-href';
import { useSideName } from '../side-name';
import { useShortcuts } from '../use-shortcuts';

const TEXT_FIELD = 'input:not([type=checkbox], [type=radio])';

/** Why a position can't be played from; null where it can. */
function faultOf(ruleset: Ruleset, text: string): PositionError | null {
  try {
    ruleset.start(text);
    return null;
  } catch (error) {
    if (error instanceof PositionError) return error;
    throw error;
  }
}

/** A position set up piece by piece, or as text, with what is wrong with it so far. */
export function PositionEditor({ kind, from }: { kind: GameKind; from: string | null }) {
  const t = useTranslations('setup');
  const say = useTranslations('problem');
  const games = useTranslations('entry');
  const router = useRouter();
  const ruleset = rulesetOf(kind);
  const boardLabel = useBoardLabel(ruleset);
  const { setup } = ruleset;
  const fromFault = from === null ? null : faultOf(ruleset, from);
  const [past, setPast] = useState<readonly Position[]>(() => [
    ruleset.start(from === null || fromFault ? undefined : from),
  ]);
  const [chosen, setChosen] = useState(setup.pieces[0]!);
  const [flipped, setFlipped] = useState(false);
  const [typed, setTyped] = useState(fromFault ? from : null);
  const [typedFault, setTypedFault] = useState(fromFault);
  const position = past.at(-1)!;
  const text = ruleset.write(position);
  const fault = faultOf(ruleset, text);
  const sayFault = ({ code, params }: PositionError): string => say(code as 'file.empty', params);

  const change = (next: Position): void => {
    setPast([...past, next]);
    setTyped(null);
    setTypedFault(null);
  };
  const undo = (): void => setPast(past.slice(0, Math.max(1, past.length - 1)));
  // what is typed is taken back by its own field
  useShortcuts(
    { 'mod+z': undo },
    {
      enableOnFormTags: true,
      ignoreEventWhen: ({ target }) => (target as Element).matches(TEXT_FIELD),
    },
  );
  const put = (square: number): void =>
    change(setup.put(position, square, setup.pieceAt(position, square) === chosen ? 0 : chosen));
  const input: BoardInput = {
    source: null,
    targets: [],
    onSquare: put,
    onHand: () => undefined,
    canCarry: (source) => 'square' in source && setup.pieceAt(position, source.square) !== 0,
    carries: 'piece',
    onCarry(source, to) {
      if (!('square' in source) || source.square === to) return;
      const piece = setup.pieceAt(position, source.square);
      change(setup.put(setup.put(position, source.square, 0), to, piece));
    },
  };
  const read = (): void => {
    if (typed === null) return;
    const wrong = faultOf(ruleset, typed);
    setTypedFault(wrong);
    if (!wrong) change(ruleset.start(typed));
  };
  return (
    <div className="board-and-side">
      <section aria-label={t('board')}>
        <GameBoard
          kind={kind}
          position={position}
          flipped={flipped}
          lastMove={null}
          label={boardLabel(position)}
          input={input}
        />
      </section>
      <section className="d-flex flex-column gap-3" aria-label={t('title')}>
        <div className="d-flex flex-wrap gap-2 align-items-center">
          <Form.Select
            className="w-auto"
            aria-label={t('game')}
            value={kind}
            onChange={(event) => router.push(`/setup?kind=${event.target.value}`)}
          >
            {GAME_KINDS.map((one) => (
              <option key={one} value={one}>
                {games(one)}
              </option>
            ))}
          </Form.Select>
          <Button variant="plain" onClick={() => change(ruleset.start())}>
            {t('start')}
          </Button>
          <Button variant="plain" onClick={() => change(setup.empty())}>
            {t('empty')}
          </Button>
          <Button variant="plain" onClick={() => setFlipped(!flipped)}>
            {t('flip')}
          </Button>
          <Button variant="plain" disabled={past.length === 1} onClick={undo}>
            {t('undo')}
          </Button>
        </div>
        <p className="soft m-0">{t('how')}</p>
        <Palette ruleset={ruleset} flipped={flipped} chosen={chosen} onChoose={setChosen} />
        <Details ruleset={ruleset} position={position} onChange={change} />
        <form
          className="d-flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            read();
          }}
        >
          <Form.Control
            aria-label={t('text')}
            value={typed ?? text}
            spellCheck={false}
            aria-invalid={typedFault !== null}
            onChange={(event) => setTyped(event.target.value)}
          />
          <Button type="submit" variant="plain" className="text-nowrap" disabled={typed === null}>
            {t('read')}
          </Button>
        </form>
        {typedFault ? (
          <p role="alert" className="m-0">
            {sayFault(typedFault)} {t('boardStays')}
          </p>
        ) : (
          <p role="status" className="m-0">
            {fault ? <strong className="sign mistake">{sayFault(fault)}</strong> : t('fine')}
          </p>
        )}
        <div>
          <Button
            variant="seal"
            disabled={fault !== null}
            onClick={() => router.push(deskHref(kind, text))}
          >
            {t('open')}
          </Button>
        </div>
      </section>
    </div>
  );
}

/** The pieces to put on the board, and an eraser. */
function Palette({
  ruleset,
  flipped,
  chosen,
  onChoose,
}: {
  ruleset: Ruleset;
  flipped: boolean;
  chosen: number;
  onChoose(piece: number): void;
}) {
  const t = useTranslations('setup');
  const sideName = useSideName(ruleset);
  const { kind, setup } = ruleset;
  const pieceName = usePieceName(ruleset);
  const half = setup.pieces.length / 2;
  return (
    <div className="d-flex flex-column gap-1" role="group" aria-label={t('pieces')}>
      {([0, 1] as const).map((side) => (
        <div key={side} className="piece-palette">
          {setup.pieces.slice(side * half, (side + 1) * half).map((piece) => (
            <button
              key={piece}
              type="button"
              aria-pressed={chosen === piece}
              aria-label={t('piece', {
                side: sideName(side),
                piece: pieceName(setup.letter(piece).toUpperCase()),
              })}
              onClick={() => onChoose(piece)}
            >
              <svg viewBox="0 0 100 100" aria-hidden="true">
                <GamePiece kind={kind} piece={piece} flipped={flipped} />
              </svg>
            </button>
          ))}
          {side === 1 && (
            <button
              type="button"
              aria-pressed={chosen === 0}
              aria-label={t('eraser')}
              title={t('eraser')}
              onClick={() => onChoose(0)}
            >
              <Eraser aria-hidden="true" />
            </button>
          )}
        </div>
      ))}
    </div>
  );
}

/** Whose turn it is, what is in hand, castling and a pawn that has just passed. */
function Details({
  ruleset,
  position,
  onChange,
}: {
  ruleset: Ruleset;
  position: Position;
  onChange(position: Position): void;
}) {
  const t = useTranslations('setup');
  const sideName = useSideName(ruleset);
  const { setup } = ruleset;
  const passable = setup.passable(position);
  return (
    <>
      <div className="d-flex flex-wrap gap-3 align-items-center">
        <span>{t('toMove')}</span>
        {([0, 1] as const).map((side) => (
          <Form.Check
            key={side}
            type="radio"
            id={`to-move-${side}`}
            name="to-move"
            label={sideName(side)}
            checked={ruleset.side(position) === side}
            onChange={() => onChange(setup.turn(position, side))}
          />
        ))}
      </div>
      {setup.rights.length > 0 && (
        <div className="d-flex flex-wrap gap-3 align-items-center">
          <span>{t('castling')}</span>
          {setup.rights.map(({ right, side, move }) => (
            <Form.Check
              key={right}
              id={`right-${right}`}
              label={`${sideName(side)} ${move}`}
              checked={setup.hasRight(position, right)}
              onChange={() => onChange(setup.toggleRight(position, right))}
            />
          ))}
        </div>
      )}
      {passable.length > 0 && (
        <label className="d-flex gap-2 align-items-center">
          {t('passed')}
          <Form.Select
            size="sm"
            className="w-auto"
            value={setup.passed(position)}
            onChange={(event) => onChange(setup.pass(position, Number(event.target.value)))}
          >
            <option value={-1}>{t('none')}</option>
            {passable.map(({ square, name }) => (
              <option key={square} value={square}>
                {name}
              </option>
            ))}
          </Form.Select>
        </label>
      )}
      {setup.handTypes.length > 0 &&
        ([0, 1] as const).map((side) => (
          <Hand key={side} ruleset={ruleset} position={position} side={side} onChange={onChange} />
        ))}
    </>
  );
}

function Hand({
  ruleset,
  position,
  side,
  onChange,
}: {
  ruleset: Ruleset;
  position: Position;
  side: Side;
  onChange(position: Position): void;
}) {
  const t = useTranslations('setup');
  const { setup } = ruleset;
  const name = useSideName(ruleset)(side);
  const pieceName = usePieceName(ruleset);
  return (
    <div className="d-flex flex-wrap gap-2 align-items-center">
      <span>{t('inHand', { side: name })}</span>
      {setup.handTypes.map((type) => {
        const letter = setup.letter(type);
        const count = setup.held(position, side, type);
        const button = (label: 'fewer' | 'more', next: number) => (
          <Button
            variant="plain"
            size="sm"
            disabled={next < 0}
            aria-label={t(label, { piece: pieceName(letter), side: name })}
            onClick={() => onChange(setup.hold(position, side, type, next))}
          >
            {label === 'fewer' ? '−' : '+'}
          </Button>
        );
        return (
          <span key={type} className="text-nowrap">
            {letter} <strong>{count}</strong> {button('fewer', count - 1)}
            {button('more', count + 1)}
          </span>
        );
      })}
    </div>
  );
}
