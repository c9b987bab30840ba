'use client';

import { useState } from 'react';
import { useTranslations } from 'next-intl';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { askEnding, isCertain, MOST_MEN } from '@/contract/endings';
import { listProofs, planProof, startProof, stopProof, type Proof } from '@/contract/proofs';
import type { NodeId } from '@/core/game/tree';
import { call, Refused } from '../call';
import { refreshQueries } from '../refresh-queries';
import { useServerEvents } from '../server-events';
import { ThinProgress } from '../thin-progress';
import { useCardPlace } from './card-place';
import { useDesk, useDeskStore, useMay } from './desk-store';
import { keepGame } from './keep-game';
import { NodeLink } from './move-link';

/** Why a proof was refused, by the answer's status. */
const PROBLEMS = { 422: 'nothing', 429: 'tooMany' } as const;

const isOpen = ({ state }: Proof): boolean => state === 'queued' || state === 'running';

/** The proof of what is on the board: what it would take, and how far it has come. @param isWanted whether there is anything to prove */
export function useProof(position: string, isWanted: boolean) {
  const t = useTranslations('ending.proof');
  const gameId = useDesk((state) => state.gameId);
  const place = useCardPlace();
  const store = useDeskStore();
  const client = useQueryClient();
  const mayEdit = useMay('edit');
  const [problem, setProblem] = useState<string | null>(null);
  const { data: proofs } = useQuery({
    queryKey: ['proofs', gameId],
    queryFn: () => call(listProofs, { id: gameId! }),
    enabled: isWanted && gameId !== null,
  });
  const here = proofs?.find(({ position: asked }) => asked.moves.join(' ') === place.name);
  const isUnderWay = here !== undefined && isOpen(here);
  const { data: plan } = useQuery({
    queryKey: ['ending', 'plan', position],
    queryFn: () => call(planProof, { query: { position } }),
    enabled: isWanted && mayEdit && !isUnderWay,
    staleTime: Infinity,
  });
  const refresh = (): void => {
    void refreshQueries(client, ['proofs']);
  };
  useServerEvents((event) => {
    if (event.type !== 'proof' || event.gameId !== gameId) return;
    refresh();
    // what is known by now, and in the end what is left to prove
    const isOver = event.done || event.cancelled;
    void refreshQueries(client, isOver ? ['ending'] : ['ending', position]);
  }, refresh);
  const settle = async (request: (id: number) => Promise<unknown>): Promise<void> => {
    setProblem(null);
    const id = await keepGame(store);
    try {
      if (id === null) throw new Error('not kept');
      await request(id);
    } catch (error) {
      const status = error instanceof Refused ? error.status : 0;
      setProblem(t(PROBLEMS[status as keyof typeof PROBLEMS] ?? 'notAsked'));
    }
    refresh();
  };
  return {
    isWanted,
    here,
    isUnderWay,
    plan,
    problem,
    start: () => {
      const { node, way } = store.getState().place();
      return settle((id) => call(startProof, { id, body: { node, way } }));
    },
    stop: (proof: Proof) => settle(() => call(stopProof, { id: proof.id })),
  };
}

/** How long some work takes, in words. */
function useDuration(): (seconds: number) => string {
  const t = useTranslations('ending.proof');
  return (seconds) =>
    seconds < 60
      ? t('seconds', { seconds: Math.max(1, Math.ceil(seconds)) })
      : t('minutes', { minutes: Math.ceil(seconds / 60) });
}

/** Asks for a proof, shows how far it has come, and stops it; out of reach, it leads to a later position that is not. */
export function EndingProof({
  proof,
  isResultKnown,
}: {
  proof: ReturnType<typeof useProof>;
  isResultKnown: boolean;
}) {
  const t = useTranslations('ending.proof');
  const duration = useDuration();
  const mayEdit = useMay('edit');
  const { isWanted, here, isUnderWay, plan, problem, start, stop } = proof;
  if (!isWanted) return null;
  return (
    <div className="d-flex flex-column gap-1">
      {problem && (
        <p role="alert" className="m-0">
          {problem}
        </p>
      )}
      {here?.state === 'failed' && (
        <p role="alert" className="m-0">
          {t('failed')}
        </p>
      )}
      {here && isUnderWay ? (
        <div className="d-flex align-items-center gap-2">
          <span role="status">
            {here.state === 'queued' ? t('waiting') : t('share', { share: here.share })}
          </span>
          <ThinProgress label={t('label')} share={100 * here.share} />
          {mayEdit && (
            <Button
              variant="plain"
              size="sm"
              title={t('stopTitle')}
              onClick={() => void stop(here)}
            >
              {t('stop')}
            </Button>
          )}
        </div>
      ) : plan ? (
        <div className="d-flex align-items-baseline gap-2 flex-wrap">
          <Button variant="plain" size="sm" onClick={() => void start()}>
            {t(here?.state === 'done' || isResultKnown ? 'further' : 'start')}
          </Button>
          <span className="soft small">
            {t(`takes.${plan.how}`, {
              time: duration(plan.seconds),
              millions: plan.positions / 1e6,
              gigabytes: plan.bytes / 1e9,
            })}
          </span>
        </div>
      ) : (
        plan === null && !isResultKnown && <OutOfReach />
      )}
    </div>
  );
}

/** Men on the board of a FEN, kings among them. */
export const menIn = (fen: string): number =>
  fen.split(' ', 1)[0]!.replaceAll(/[^a-z]/gi, '').length;

/** Says that a proof is out of reach, and from which later move of the game on it is not. */
function OutOfReach() {
  const t = useTranslations('ending.proof');
  const view = useDesk((state) => state.view);
  const { node } = useCardPlace();
  const from = view.plyOf(node);
  /** The first positions of the game with fewer men each. */
  const later = view.line
    .slice(from)
    .reduce<{ id: NodeId; fen: string; men: number }[]>((found, { id }) => {
      const fen = view.ruleset.write(view.positionOf(id));
      const men = menIn(fen);
      return men <= MOST_MEN && men < (found.at(-1)?.men ?? MOST_MEN + 1)
        ? [...found, { id, fen, men }]
        : found;
    }, []);
  const { data: within } = useQuery({
    queryKey: ['ending', 'within', later.map(({ fen }) => fen)],
    queryFn: async () => {
      for (const one of later) {
        const query = { position: one.fen };
        const { worth } = await call(askEnding, { query });
        if ((worth && isCertain(worth)) || (await call(planProof, { query }))) return one.id;
      }
      return null;
    },
    staleTime: Infinity,
  });
  return (
    <p className="soft m-0">
      {t('outOfReach')}{' '}
      {within !== undefined && within !== null && (
        <>
          {t('later')} <NodeLink id={within} isBehind />
        </>
      )}
    </p>
  );
}
