'use client';

import { createContext, useContext } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import { reviewGame, type Findings } from '@/core/review/review';
import type { Move } from '@/core/game/move';
import type { Ruleset, Side } from '@/core/game/ruleset';
import { positionsAlong } from '@/core/game/tree';
import type { SweepResults } from '@/server/sweeps';
import { useServerEvents } from '../server-events';
import { useDesk } from './desk-store';
import type { GameView } from './game-view';

export interface DeskReview extends SweepResults {
  review: Findings | null;
  /** Moves that turned the game, by ply. */
  turningPoints: readonly number[];
  /** The positions just before them, in which there was still something to find. */
  beforeTurningPoints: readonly number[];
  /** Flagged moves of the owner's side, or of both where none of them is the owner. */
  ownErrors: readonly number[];
  ownSide: Side | null;
  refresh(): void;
}

/** How many moves a main line has in common with the one that was evaluated. */
function shared(ruleset: Ruleset, moves: readonly Move[], line: readonly string[]): number {
  const index = moves.findIndex((move, ply) => ruleset.code(move) !== line[ply]);
  return index === -1 ? moves.length : index;
}

/** What is known of the positions up to a ply, where the line may go on with another move. */
function evaluationsAlong({ evaluations, line }: SweepResults, ply: number) {
  if (ply === line.length) return evaluations;
  return evaluations.slice(0, ply + 1).map((evaluation, index) => {
    if (!evaluation || index < ply) return evaluation;
    const { played: _, ...rest } = evaluation;
    return rest;
  });
}

const REFETCH_PAUSE_MS = 300;

/** The review of the game on the Desk, live while a sweep goes over it. */
export function useSweepReview(
  gameId: number | null,
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
    enabled: gameId !== null,
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

  const { ruleset, moves } = view;
  const { start } = view.record.tree;
  const isSaved = useDesk((state) => state.unsaved.length === 0);
  const differs =
    data.line.length !== moves.length || shared(ruleset, moves, data.line) < moves.length;
  useEffect(() => {
    if (isSaved && differs) refresh();
  }, [isSaved, differs, refresh]);

  return useMemo(() => {
    const positions = positionsAlong(
      ruleset,
      start,
      moves.map((move) => ({ move })),
    );
    const evaluations = evaluationsAlong(data, shared(ruleset, moves, data.line));
    const known = evaluations.length > 0;
    const review = known ? reviewGame(ruleset, positions, moves, evaluations) : null;
    const flagged = (review?.moves ?? []).flatMap((found) => (found ? [found] : []));
    const turningPoints = flagged.filter((found) => found.isTurningPoint).map(({ ply }) => ply);
    const isError = (verdict: string): boolean => verdict !== 'none' && verdict !== 'only move';
    return {
      ...data,
      evaluations,
      review,
      turningPoints,
      beforeTurningPoints: turningPoints.map((ply) => ply - 1),
      ownErrors: flagged
        .filter(({ verdict, side }) => isError(verdict) && (ownSide === null || side === ownSide))
        .map(({ ply }) => ply),
      ownSide,
      refresh,
    };
  }, [data, ruleset, start, moves, ownSide, refresh]);
}

const ReviewContext = createContext<DeskReview | null>(null);
export const ReviewProvider = ReviewContext.Provider;

export function useReview(): DeskReview {
  const review = useContext(ReviewContext);
  if (!review) throw new Error('outside a Desk');
  return review;
}
