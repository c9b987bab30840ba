'use client';

import { wholeLoss } from '@/core/review/chance';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { useTranslations } from 'next-intl';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Move } from '@/core/game/move';
import type { Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import type { ThinkingStop } from '@/server/thinking';
import { GameBoard } from '../board/game-board';
import { MoveChoice } from '../board/move-choice';
import { MoveField } from '../board/move-field';
import { useBoardLabel } from '../board/use-board-label';
import { useMoveInput } from '../board/use-move-input';
import { clockText } from '../format';
import { LineText } from '../line-text';
import { moveText, readLine } from '../move-text';
import { useShogiNotation } from '../preferences';
import { useSideName } from '../side-name';
import { useRehydrated } from '../use-rehydrated';
import { ThinkAnswer } from './think-answer';
import { keyOf, useFirstOpenStop, useThought, useThoughts, walkOf } from './think-store';

interface ThinkProps extends ThinkingStop {
  /** Whose moves are asked for; null: both sides'. */
  side: Side | null;
  /** Whether the walk has been begun, or is only being set up. */
  begun: boolean;
  ownSide: Side | null;
  /** For each position; 0: as long as it takes. */
  seconds: number;
  /** From 1. */
  stop: number;
}

const hrefOf = (gameId: number, side: Side | null, seconds: number, stop: number): string =>
  `/games/${gameId}/think?side=${side ?? 'both'}&time=${seconds}&stop=${stop}`;

/** A walk through a game that stops where there is something to think about, and shows nothing until a move is entered. */
export function ThinkFirst(props: ThinkProps) {
  const t = useTranslations('think');
  const ready = useRehydrated(useThoughts);
  const { gameId, sweep, begun, count, stop, players } = props;
  return (
    <main className="page think" id="main">
      <div className="d-flex align-items-baseline gap-3 flex-wrap">
        <h1 className="m-0">{t('title')}</h1>
        <span className="soft">
          {players[0] ?? '?'} – {players[1] ?? '?'}
        </span>
      </div>
      {sweep === null ? (
        <p className="quiet-box">
          {t('noSweep')}{' '}
          <Link href={`/games/${gameId}`} className="text-decoration-underline">
            {t('toDesk')}
          </Link>
        </p>
      ) : !ready ? null : !begun ? (
        <Start {...props} />
      ) : count === 0 ? (
        <p className="quiet-box">{t('nothing')}</p>
      ) : stop > count ? (
        <Summary {...props} />
      ) : (
        <Stop {...props} />
      )}
    </main>
  );
}

const TIMES = [0, 30, 60, 120, 300];

/** Whose moves, and how long for each. */
function Start({ gameId, sweep, kind, ownSide }: ThinkProps) {
  const t = useTranslations('think');
  const router = useRouter();
  const sideName = useSideName(rulesetOf(kind));
  const [side, setSide] = useState<Side | null>(ownSide);
  const [seconds, setSeconds] = useState(0);
  const walk = walkOf(gameId, sweep, side);
  const open = useFirstOpenStop(walk);
  const isOver = open > (useThought(walk, 1)?.count ?? Infinity);
  return (
    <form
      className="quiet-box d-flex flex-column gap-3 align-items-start"
      onSubmit={(event) => {
        event.preventDefault();
        useThoughts.getState().forget(walk);
        router.push(hrefOf(gameId, side, seconds, 1));
      }}
    >
      <p className="m-0">{t('what')}</p>
      <label className="d-flex align-items-center gap-2">
        {t('whose')}
        <Form.Select
          className="w-auto"
          value={side ?? 'both'}
          onChange={({ target: { value } }) =>
            setSide(value === 'both' ? null : (Number(value) as Side))
          }
        >
          {([0, 1] as const).map((one) => (
            <option key={one} value={one}>
              {t('movesOf', { side: sideName(one) })}
            </option>
          ))}
          <option value="both">{t('movesOfBoth')}</option>
        </Form.Select>
      </label>
      <label className="d-flex align-items-center gap-2">
        {t('time')}
        <Form.Select
          className="w-auto"
          value={seconds}
          onChange={({ target }) => setSeconds(Number(target.value))}
        >
          {TIMES.map((value) => (
            <option key={value} value={value}>
              {value === 0 ? t('noLimit') : clockText(value * 1000)}
            </option>
          ))}
        </Form.Select>
      </label>
      <div className="d-flex gap-2">
        {open > 1 && (
          <Link
            className={`btn btn-${isOver ? 'plain' : 'seal'}`}
            href={hrefOf(gameId, side, seconds, open)}
            prefetch={false}
          >
            {isOver ? t('summary') : t('goOn')}
          </Link>
        )}
        <Button type="submit" variant={open > 1 && !isOver ? 'plain' : 'seal'}>
          {open > 1 ? t('beginAnew') : t('begin')}
        </Button>
      </div>
    </form>
  );
}

/** One position of the walk: a move is asked for, and then answered. */
function Stop({ gameId, sweep, kind, start, moves, side, seconds, stop, count }: ThinkProps) {
  const t = useTranslations('think');
  const notation = useShogiNotation();
  const ruleset = rulesetOf(kind);
  const sideName = useSideName(ruleset);
  const boardLabel = useBoardLabel(ruleset);
  const walk = walkOf(gameId, sweep, side);
  const thought = useThought(walk, stop);
  const [begun] = useState(() => Date.now());
  const line = useMemo(
    () => readLine(ruleset, ruleset.start(start), moves, null, notation),
    [ruleset, start, moves, notation],
  );
  const history = useMemo(
    () => [ruleset.start(start), ...line.slice(0, -1).map(({ position }) => position)],
    [ruleset, start, line],
  );
  const position = line.at(-1)?.position ?? history[0]!;
  const mover = ruleset.side(position);
  const [choices, setChoices] = useState<readonly Move[]>([]);
  const enter = (move: Move): void => {
    setChoices([]);
    if (thought) return;
    useThoughts.getState().keep(walk, stop, {
      code: ruleset.code(move),
      seconds: Math.round((Date.now() - begun) / 1000),
      count,
      result: null,
    });
  };
  const input = useMoveInput(ruleset, position, (fitting) =>
    fitting.length === 1 ? enter(fitting[0]!) : setChoices(fitting),
  );
  const next = hrefOf(gameId, side, seconds, stop + 1);
  return (
    <div className="board-and-side">
      <div className="think-board">
        <GameBoard
          kind={kind}
          position={position}
          flipped={mover === 1}
          lastMove={line.at(-1)?.move ?? null}
          label={boardLabel(position)}
          input={thought ? undefined : input}
        />
      </div>
      <section className="d-flex flex-column gap-2" aria-label={t('question')}>
        <header className="d-flex align-items-baseline gap-3">
          <h2 className="m-0">{t('position', { stop, count })}</h2>
          {!thought && <Clock seconds={seconds} begun={begun} />}
        </header>
        <p
          className="soft small think-moves"
          tabIndex={0}
          role="group"
          aria-label={t('movesSoFar')}
        >
          <LineText line={line} />
        </p>
        {thought ? (
          <>
            <ThinkAnswer
              gameId={gameId}
              ruleset={ruleset}
              position={position}
              history={history}
              side={side}
              walk={walk}
              stop={stop}
              thought={thought}
            />
            <div>
              <Link href={next} className="btn btn-seal" prefetch={false}>
                {stop === count ? t('summary') : t('next')}
              </Link>
            </div>
          </>
        ) : (
          <>
            <p className="m-0">{t('ask', { side: sideName(mover) })}</p>
            <MoveField
              ruleset={ruleset}
              position={position}
              previous={line.at(-1)?.move ?? null}
              label={t('field')}
              onMove={enter}
              autoFocus
            />
            {choices.length > 0 && (
              <MoveChoice
                moves={choices}
                textOf={(move) => moveText(ruleset, position, move, null, notation)}
                onMove={enter}
              />
            )}
          </>
        )}
      </section>
    </div>
  );
}

/** Counts the time for a position, down where there is a limit. */
function Clock({ seconds, begun }: { seconds: number; begun: number }) {
  const t = useTranslations('think');
  const [now, setNow] = useState(begun);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, []);
  const spent = Math.max(0, Math.floor((now - begun) / 1000));
  const left = seconds - spent;
  if (seconds > 0 && left <= 0)
    return (
      <strong role="alert" className="sign mistake">
        {t('timeUp', { over: clockText(-left * 1000) })}
      </strong>
    );
  return (
    <span role="timer" className="soft">
      {seconds > 0
        ? t('left', { time: clockText(left * 1000) })
        : t('spent', { time: clockText(spent * 1000) })}
    </span>
  );
}

const meanOf = (costs: readonly number[]): string =>
  (costs.reduce((sum, cost) => sum + cost, 0) / costs.length).toFixed(1);

/** What came of the walk. */
function Summary({ gameId, sweep, kind, count, side, seconds }: ThinkProps) {
  const t = useTranslations('think');
  const ruleset = rulesetOf(kind);
  const boardLabel = useBoardLabel(ruleset);
  const thoughts = useThoughts((state) => state.thoughts);
  const walk = walkOf(gameId, sweep, side);
  const rows = Array.from({ length: count }, (_, index) => ({
    stop: index + 1,
    thought: thoughts[keyOf(walk, index + 1)],
  }));
  const weighed = rows.flatMap(({ thought }) => thought?.result ?? []);
  return (
    <section className="d-flex flex-column gap-3 align-items-start" aria-label={t('summary')}>
      <h2 className="m-0">{t('summary')}</h2>
      {weighed.length > 0 && (
        <p className="m-0">
          {t('mean', {
            loss: meanOf(weighed.map(({ yours }) => yours.cost)),
            played: meanOf(weighed.map(({ played }) => played.cost)),
            count: weighed.length,
          })}
        </p>
      )}
      <table className="games-table think-summary">
        <thead>
          <tr>
            <th>{t('number')}</th>
            <th>{t('yours')}</th>
            <th>{t('played')}</th>
            <th>{t('best')}</th>
            <th>{t('timeSpent')}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ stop, thought }) => {
            const result = thought?.result;
            const position = result && ruleset.start(result.position);
            return (
              <tr key={stop}>
                <td>
                  <Link
                    href={hrefOf(gameId, side, seconds, stop)}
                    prefetch={false}
                    aria-label={t('position', { stop, count })}
                    className="think-glimpse"
                  >
                    {position ? (
                      <GameBoard
                        kind={kind}
                        position={position}
                        flipped={ruleset.side(position) === 1}
                        lastMove={null}
                        label={boardLabel(position)}
                      />
                    ) : (
                      stop
                    )}
                  </Link>
                </td>
                <td>{result ? <CostedMove {...result.yours} /> : (thought?.code ?? '–')}</td>
                <td>
                  {result ? (
                    <>
                      <Link href={`/games/${gameId}?node=${result.node}`} prefetch={false}>
                        <CostedMove
                          text={`${result.number} ${result.played.text}`}
                          cost={result.played.cost}
                        />
                      </Link>
                      {result.isTurningPoint && (
                        <span className="soft small d-block">{t('turned')}</span>
                      )}
                    </>
                  ) : (
                    '–'
                  )}
                </td>
                <td>{result?.best ?? '–'}</td>
                <td>{thought ? clockText(thought.seconds * 1000) : '–'}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className="d-flex gap-3">
        <Link href={`/games/${gameId}/think`} prefetch={false}>
          {t('again')}
        </Link>
        <Link href={`/games/${gameId}`}>{t('toDesk')}</Link>
      </div>
    </section>
  );
}

/** A move, and under it the chance points that it costs. */
function CostedMove({ text, cost }: { text: string; cost: number }) {
  const t = useTranslations('think');
  return (
    <>
      {text}
      <span className="soft small d-block">{t('cost', { loss: wholeLoss(cost) })}</span>
    </>
  );
}
