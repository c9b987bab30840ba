'use client';

import {
  memo,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
  type CSSProperties,
} from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import {
  ArrowDownUp,
  ChevronBarLeft,
  ChevronBarRight,
  ChevronLeft,
  ChevronRight,
  PauseFill,
  PlayFill,
} from 'react-bootstrap-icons';
import { dropOf, fromOf, toOf } from '@/core/game/move';
import type { Side, Position } from '@/core/game/ruleset';
import type { Arrow } from '../board/board-props';
import { GameBoard } from '../board/game-board';
import { MoveField } from '../board/move-field';
import { useBoardLabel } from '../board/use-board-label';
import { clockText } from '../format';
import { numberText, readLine } from '../move-text';
import { usePreferences, useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { useDeskSetup } from './desk-setup';
import { useDeskShortcuts } from './shortcuts';
import { useBoardEdits } from './board-edits';
import { nextAfter } from './desk-keys';
import { useReview } from './desk-review';
import { ShortcutSheet } from './shortcut-sheet';
import { useDesk, useDeskStore, type Excursion } from './desk-store';
import { WheelSteps } from './wheel-steps';

export function BoardSide() {
  const t = useTranslations('desk');
  const store = useDeskStore();
  const view = useDesk((state) => state.view);
  const node = useDesk((state) => state.node);
  const flipped = useDesk((state) => state.flipped);
  const excursion = useDesk((state) => state.excursion);
  const place = useDesk((state) => state.place());
  const { position, move } = place;
  const { input, banner, enter } = useBoardEdits(place);
  const moveField = useRef<HTMLInputElement>(null);
  const strength = usePreferences((state) => state.markStrength);
  const { review } = useReview();
  const frame = useRef<HTMLDivElement>(null);
  const ply = view.plyOf(node);
  const top: Side = flipped ? 0 : 1;

  // on many keyboards it is written with shift
  useDeskShortcuts({ move: () => moveField.current?.focus() }, { ignoreModifiers: true });
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const wheel = new WheelSteps();
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      const steps = wheel.turn(event);
      for (let left = Math.abs(steps); left > 0; left--) store.getState().move(steps > 0 ? 1 : -1);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [store]);

  const found = excursion || !view.isMainLine(node) ? null : review?.moves[ply - 1];
  const arrows: Arrow[] = [];
  if (found && found.verdict !== 'none' && found.betterLine.length > 0) {
    const better = view.ruleset.parseCode(found.betterLine[0]!);
    if (better !== null && dropOf(better) === 0)
      arrows.push({ from: fromOf(better), to: toOf(better), tone: 'indigo' });
  }
  const threat = useDesk((state) =>
    state.threat?.place === place.name ? state.threat.code : null,
  );
  const threatened = threat === null ? null : view.ruleset.parseCode(threat);
  if (threatened !== null && dropOf(threatened) === 0)
    arrows.push({ from: fromOf(threatened), to: toOf(threatened), tone: 'seal' });
  const marks = excursion ? [] : (view.node(node).marks ?? []);
  return (
    <section className="board-side" aria-label={t('board')}>
      <PlayerLine side={top} position={position} ply={ply} />
      <div
        className="board-frame"
        ref={frame}
        style={{ '--mark-strength': strength / 100 } as CSSProperties}
      >
        <GameBoard
          kind={view.ruleset.kind}
          position={position}
          flipped={flipped}
          lastMove={move}
          arrows={arrows}
          marks={marks}
          label={WORDS}
          input={input}
        />
        <BoardWords />
      </div>
      <PlayerLine side={(1 - top) as Side} position={position} ply={ply} />
      <StepButtons />
      <div className="board-foot">
        <MoveField
          ruleset={view.ruleset}
          position={position}
          previous={move}
          onMove={enter}
          fieldRef={moveField}
          compact
        />
        {excursion ? <ExcursionBanner {...excursion} /> : banner}
        <DrawNotice />
      </div>
    </section>
  );
}

/** From so many half moves without a capture or a pawn move on, the count is shown. */
const QUIET_FROM = 60;

/** How near the position is to a draw by repetition or for want of progress; it follows a moment later. */
function DrawNotice() {
  const t = useTranslations('desk');
  const ruleset = useDesk((state) => state.view.ruleset);
  const { position, history } = useDeferredValue(useDesk((state) => state.place()));
  const notices = useMemo(() => {
    const key = ruleset.key(position);
    const times = 1 + history.filter((earlier) => ruleset.key(earlier) === key).length;
    const quiet = ruleset.quietPlies(position);
    return [
      ...(times > 1 ? [t('repeated', { times, most: ruleset.repetitions })] : []),
      ...(quiet !== null && quiet >= QUIET_FROM
        ? [t('quiet', { moves: Math.floor(quiet / 2), most: 50 })]
        : []),
    ];
  }, [ruleset, position, history, t]);
  return (
    notices.length > 0 && (
      <p className="soft small m-0" role="status">
        {notices.join(' ')}
      </p>
    )
  );
}

const WORDS = { id: 'board-words' };

/** The position on the board in words; they follow a moment later, so that they never hold up a step. */
function BoardWords() {
  const { position } = useDeferredValue(useDesk((state) => state.place()));
  return (
    <span id={WORDS.id} hidden>
      <PositionInWords position={position} />
    </span>
  );
}

const PositionInWords = memo(function PositionInWords({ position }: { position: Position }) {
  return useBoardLabel(useDesk((state) => state.view.ruleset))(position);
});

function ExcursionBanner({ base, codes, step }: Excursion) {
  const t = useTranslations('desk');
  const store = useDeskStore();
  const notation = useShogiNotation();
  const { view } = store.getState();
  const start = view.positionOf(base);
  const line = readLine(view.ruleset, start, codes, view.moveTo(base), notation);
  const last = line[step - 1];
  const before = step > 1 ? line[step - 2]!.position : start;
  return (
    <div className="line-banner" role="status">
      <span className="text-truncate">
        {t('inLine', { step, length: line.length })}{' '}
        {last && (
          <strong>
            {numberText(view.ruleset, before)} {last.text}
          </strong>
        )}
      </span>
      <Button variant="plain" className="ms-auto" onClick={() => store.getState().leaveExcursion()}>
        {t('backToGame')}
      </Button>
    </div>
  );
}

function PlayerLine({ side, position, ply }: { side: Side; position: Position; ply: number }) {
  // whose side it is in a game that somebody else has given, is not the reader's
  const isOwn = useDeskSetup().givenBy === null;
  const t = useTranslations('desk');
  const view = useDesk((state) => state.view);
  const sideName = useSideName(view.ruleset);
  const notation = useShogiNotation();
  const { ownSide } = useReview();
  const { name, rating, title, country, team } = view.info.players[side];
  const colour = view.ruleset.sides[side];
  const clock = view.clocksAtPly(ply)[side];
  const perMove = view.info.timeControl?.byoyomi ?? 0;
  const balance = view.ruleset
    .materialBalance(position)
    .map(({ piece, count }) => ({ piece, count: side === 0 ? count : -count }))
    .filter(({ count }) => count > 0)
    .map(({ piece, count }) => {
      const name = view.ruleset.pieceIn(notation, piece);
      return count > 1 ? t('pieceCount', { count, piece: name }) : name;
    });
  const details = [
    title,
    rating,
    country,
    team,
    isOwn && ownSide === side ? t('you') : null,
  ].filter((detail) => detail !== null);
  return (
    <div className="player-line">
      <span className={`dot ${colour}`} aria-hidden="true" />
      <span className="name">{name ?? sideName(side)}</span>
      <span className="visually-hidden">{sideName(side)}</span>
      <span className="soft text-truncate">{details.join(' · ')}</span>
      {balance.length > 0 && (
        <span className="material" title={t('materialTitle')}>
          {t('material', { pieces: balance.join(' ') })}
        </span>
      )}
      {clock !== null && (
        <span className="clock">
          <span className="visually-hidden">{t('timeLeft')} </span>
          {clock === 0 && perMove > 0
            ? t('byoyomi', {
                left: clockText(view.byoyomiAtPly(ply, side) ?? perMove * 1000),
                each: clockText(perMove * 1000),
              })
            : clockText(clock)}
        </span>
      )}
    </div>
  );
}

const RUN_MS = 1200;

/** Runs through the line on the board, a move at a time, until it ends or is stopped. */
function RunButton() {
  const t = useTranslations('desk');
  const store = useDeskStore();
  const [running, setRunning] = useState(false);
  useDeskShortcuts({ run: () => setRunning((now) => !now) });
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => {
      const before = store.getState().place();
      store.getState().move(1);
      if (store.getState().place() === before) setRunning(false);
    }, RUN_MS);
    return () => clearInterval(timer);
  }, [running, store]);
  const label = t(running ? 'pause' : 'play');
  return (
    <Button
      variant="plain"
      aria-label={label}
      aria-pressed={running}
      title={label}
      onClick={() => setRunning(!running)}
    >
      {running ? <PauseFill aria-hidden="true" /> : <PlayFill aria-hidden="true" />}
    </Button>
  );
}

const StepButtons = memo(function StepButtons() {
  const t = useTranslations('desk');
  const store = useDeskStore();
  const { beforeTurningPoints, ownErrors } = useReview();
  const jump = (plies: readonly number[]): void => {
    const { node, view } = store.getState();
    const target = nextAfter(plies, view.plyOf(node), 1);
    if (target !== null) store.getState().goToPly(target);
  };
  const plain = [
    { label: t('toStart'), icon: <ChevronBarLeft />, act: () => store.getState().toStart() },
    { label: t('back'), icon: <ChevronLeft />, act: () => store.getState().move(-1) },
    { label: t('forward'), icon: <ChevronRight />, act: () => store.getState().move(1) },
    { label: t('toEnd'), icon: <ChevronBarRight />, act: () => store.getState().toEnd() },
  ];
  return (
    <div className="step-buttons" role="toolbar" aria-label={t('steps')}>
      {plain.map(({ label, icon, act }) => (
        <Button key={label} variant="plain" aria-label={label} title={label} onClick={act}>
          {icon}
        </Button>
      ))}
      <RunButton />
      <Button
        variant="plain"
        disabled={beforeTurningPoints.length === 0}
        aria-label={t('nextTurningPoint')}
        title={t('keys.turningPoint')}
        onClick={() => jump(beforeTurningPoints)}
      >
        {t('turningPoint')}
      </Button>
      <Button
        variant="plain"
        disabled={ownErrors.length === 0}
        aria-label={t('nextOwnError')}
        title={t('keys.ownError')}
        onClick={() => jump(ownErrors)}
      >
        {t('ownError')}
      </Button>
      <Button
        variant="plain"
        aria-label={t('flip')}
        title={t('keys.flip')}
        onClick={() => store.getState().flip()}
      >
        <ArrowDownUp aria-hidden="true" />
      </Button>
      <ShortcutSheet />
    </div>
  );
});
