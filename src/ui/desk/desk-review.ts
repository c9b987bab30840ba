'use client';

import { createContext, useContext, useEffect, useMemo, useRef } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { findReview, type Comparison, type ReviewState, type SweepStatus } from '@/contract/review';
import { sharedMoves } from '@/core/review/findings';
import type { PositionEvaluation } from '@/core/review/evaluation';
import type { NodeId } from '@/core/game/tree';
import type { Findings, MoveReview } from '@/core/review/review';
import { isFlag } from '@/core/review/verdict';
import type { Side } from '@/core/game/ruleset';
import { call } from '../call';
import { refreshQueries } from '../refresh-queries';
import { useServerEvents } from '../server-events';
import { useDesk, useDeskStore } from './desk-store';
import { askedOf, findingsFor, withNews, type KnownReview } from './review-state';

export interface DeskReview {
  /** The latest sweep, and the one that is shown. */
  sweep: SweepStatus | null;
  shown: SweepStatus | null;
  review: Findings | null;
  /** What is said of moves of variations, by their nodes. */
  variations: ReadonlyMap<NodeId, MoveReview>;
  /** What the sweep before the one that is shown said otherwise. */
  comparison: Comparison | null;
  /** By ply of the main line; null where nothing is known. */
  evaluations: readonly (PositionEvaluation | null)[];
  /** Moves that turned the game, by ply. */
  turningPoints: readonly number[];
  /** The positions just before them, in which there was still something to find. */
  beforeTurningPoints: readonly number[];
  /** Flagged moves of the owner's side, or of both where none of them is the owner. */
  ownErrors: readonly number[];
  ownSide: Side | null;
  refresh(): void;
  /** Takes what the server has answered. */
  take(news: ReviewState): void;
}

const NOTHING_KNOWN: KnownReview = { sweep: null, shown: null };
const REFETCH_PAUSE_MS = 300;

/** The review of the game on the Desk, live while a sweep goes over it. */
export function useSweepReview(
  gameId: number | null,
  ownSide: Side | null,
  initial: ReviewState,
): DeskReview {
  const client = useQueryClient();
  const store = useDeskStore();
  const key = useMemo(() => ['review', gameId], [gameId]);
  const first = useMemo(
    () => withNews(NOTHING_KNOWN, initial, store.getState().view.record),
    [initial, store],
  );
  const { data } = useQuery<KnownReview>({
    queryKey: key,
    queryFn: async () => {
      const known = client.getQueryData<KnownReview>(key) ?? NOTHING_KNOWN;
      const query = askedOf(known, store.getState().view.record);
      const news = await call(findReview, { id: gameId!, query });
      return withNews(known, news, store.getState().view.record);
    },
    enabled: gameId !== null,
    initialData: first,
    staleTime: Infinity,
    // what has not changed is the same already
    structuralSharing: false,
  });
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const refresh = useMemo(
    () => () => {
      timer.current ??= setTimeout(() => {
        timer.current = null;
        void refreshQueries(client, key);
      }, REFETCH_PAUSE_MS);
    },
    [client, key],
  );
  useEffect(() => () => void (timer.current && clearTimeout(timer.current)), []);
  useServerEvents((event) => {
    if (event.type === 'sweep' && event.gameId === gameId) refresh();
  }, refresh);

  const take = useMemo(
    () => (news: ReviewState) =>
      client.setQueryData<KnownReview>(key, (known) =>
        withNews(known ?? NOTHING_KNOWN, news, store.getState().view.record),
      ),
    [client, key, store],
  );

  const variations = useMemo(
    () => new Map(data.shown?.complete?.variations),
    [data.shown?.complete],
  );
  const codes = useDesk(({ view }) => view.codes);
  const isSaved = useDesk((state) => state.unsaved.length === 0);
  const line = data.shown?.line;
  const shared = line ? sharedMoves(codes, line) : 0;
  const differs = line !== undefined && shared < Math.max(codes.length, line.length);
  useEffect(() => {
    if (isSaved && differs) refresh();
  }, [isSaved, differs, refresh]);

  return useMemo(() => {
    const review = findingsFor(data, codes);
    const flagged = (review?.moves ?? []).flatMap((found) => (found ? [found] : []));
    const turningPoints = flagged.filter((found) => found.isTurningPoint).map(({ ply }) => ply);
    return {
      sweep: data.sweep,
      shown: data.shown?.sweep ?? null,
      review,
      variations,
      comparison: data.shown?.comparison ?? null,
      evaluations: data.shown?.evaluations.slice(0, shared + 1) ?? [],
      turningPoints,
      beforeTurningPoints: turningPoints.map((ply) => ply - 1),
      ownErrors: flagged
        .filter(({ verdict, side }) => isFlag(verdict) && (ownSide === null || side === ownSide))
        .map(({ ply }) => ply),
      ownSide,
      refresh,
      take,
    };
  }, [data, codes, shared, variations, ownSide, refresh, take]);
}

const ReviewContext = createContext<DeskReview | null>(null);
export const ReviewProvider = ReviewContext.Provider;

export function useReview(): DeskReview {
  const review = useContext(ReviewContext);
  if (!review) throw new Error('outside a Desk');
  return review;
}
