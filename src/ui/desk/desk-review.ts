'use client';

import { createContext, useContext } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import { reviewGame, type Findings } from '@/core/review/review';
import type { Side } from '@/core/game/ruleset';
import { positionsAlong } from '@/core/game/tree';
import type { SweepResults } from '@/server/sweeps';
import { useServerEvents } from '../server-events';
import type { GameView } from './game-view';

export interface DeskReview extends SweepResults {
  review: Findings | null;
  /** Moves that turned the game, by ply. */
  turningPoints: readonly number[];
  /** Flagged moves of the owner's side, or of both where none of them is the owner. */
  ownErrors: readonly number[];
  ownSide: Side | null;
  refresh(): void;
}

const REFETCH_PAUSE_MS = 300;

/** The review of the game on the Desk, live while a sweep goes over it. */
export function useSweepReview(
  gameId: number,
  view: GameView,
  ownSide: Side | null,
  initial: SweepResults,
): DeskReview {
  const client = useQueryClient();
  const key = useMemo(() => ['review', gameId], [gameId]);
  const { data } = useQuery<SweepResults>({
    queryKey: key,
    queryFn: async () => {
      const answer = await fetch(`/api/games/${gameId}/review`);
      if (!answer.ok) throw new Error(String(answer.status));
      return (await answer.json()) as SweepResults;
    },
    initialData: initial,
    staleTime: Infinity,
  });
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const refresh = useMemo(
    () => () => {
      timer.current ??= setTimeout(() => {
        timer.current = null;
        void client.invalidateQueries({ queryKey: key });
      }, REFETCH_PAUSE_MS);
    },
    [client, key],
  );
  useEffect(() => () => void (timer.current && clearTimeout(timer.current)), []);
  useServerEvents((event) => {
    if (event.type === 'sweep' && event.gameId === gameId) refresh();
  }, refresh);

  return useMemo(() => {
    const positions = positionsAlong(view.ruleset, view.record.tree.start, view.line);
    const moves = view.line.map(({ move }) => move);
    const known = data.evaluations.length > 0;
    const review = known ? reviewGame(view.ruleset, positions, moves, data.evaluations) : null;
    const flagged = (review?.moves ?? []).flatMap((found) => (found ? [found] : []));
    const isError = (verdict: string): boolean => verdict !== 'none' && verdict !== 'only move';
    return {
      ...data,
      review,
      turningPoints: flagged.filter((found) => found.isTurningPoint).map(({ ply }) => ply),
      ownErrors: flagged
        .filter(({ verdict, side }) => isError(verdict) && (ownSide === null || side === ownSide))
        .map(({ ply }) => ply),
      ownSide,
      refresh,
    };
  }, [data, view, ownSide, refresh]);
}

const ReviewContext = createContext<DeskReview | null>(null);
export const ReviewProvider = ReviewContext.Provider;

export function useReview(): DeskReview {
  const review = useContext(ReviewContext);
  if (!review) throw new Error('outside a Desk');
  return review;
}
