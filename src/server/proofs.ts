import { totalmem } from 'node:os';
import { and, desc, eq, sql } from 'drizzle-orm';
import type { Proof } from '@/contract/proofs';
import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import { walk } from '@/core/game/walk';
import { planProof, type ProofPlan } from '@/engine/hosts/ending-plan';
import { addCountedAsk, movesTo, removeAsk } from './asks';
import { database } from './database';
import { endingsFolder, resultOf } from './endings';
import { findGame, type StoredGame } from './games';
import type { OwnerRef } from './owner';
import { asks, type AskedPosition } from './schema';
import { settings } from './settings';

/** How far a proof has come is kept in so many parts of the whole. */
export const PROOF_PARTS = 1000;

const PROOF = {
  id: asks.id,
  // about a position of a game, as the table's checks say
  gameId: sql<number>`${asks.gameId}`.mapWith(Number),
  state: asks.state,
  position: sql<AskedPosition>`${asks.position}`,
  share: sql<number>`${asks.done}::float / ${asks.total}`.mapWith(Number),
};

const MOST_LISTED = 100;
/** As many proofs as one owner may have waiting or running. */
const MOST_OPEN = 10;

/** A proof takes no more of the machine's memory than this share. */
const MEMORY_SHARE = 0.5;

/** How a position can be proved here; null where it is out of reach, or nothing is left to prove. */
export const proofOf = (position: ChessPosition): Promise<ProofPlan | null> =>
  planProof(position, endingsFolder(), settings().engines, MEMORY_SHARE * totalmem());

/** The position of a chess game that a proof is about. */
export function positionToProve(
  { record: { tree } }: StoredGame,
  moves: readonly string[],
): ChessPosition | null {
  if (tree.kind !== 'chess') return null;
  const start = chess.start(tree.start);
  return walk(chess, start, moves).at(-1)?.after ?? start;
}

/** A proof that is to take so many seconds at most waits for none that takes longer. */
const SHORT_SECONDS = 10;
/** Proofs run one after the other, since each may take much of the memory; but short ones, which take little, beside long ones. */
export const PROOF_LANES = ['short proofs', 'long proofs'] as const;

/** Queues a proof; `refused` tells why it is not. */
export async function startProof(
  owner: OwnerRef,
  gameId: number,
  node: number,
  way: readonly string[],
): Promise<{ proof: Proof } | { refused: 'missing' | 'unfit' | 'tooMany' }> {
  const game = await findGame(owner, gameId);
  if (!game?.record.tree.nodes.has(node)) return { refused: 'missing' };
  const moves = movesTo(game, node, way);
  const position = moves && positionToProve(game, moves);
  if (!position) return { refused: 'unfit' };
  const plan = await proofOf(position);
  // what somebody else has proved meanwhile is over at once
  if (!plan && resultOf(position) === null) return { refused: 'unfit' };
  const [short, long] = PROOF_LANES;
  const lane = plan && plan.seconds > SHORT_SECONDS ? long : short;
  const ask = await addCountedAsk(
    {
      ownerId: owner.id,
      gameId,
      plan: 'proof',
      position: { node, moves },
      settings: '',
      total: PROOF_PARTS,
    },
    MOST_OPEN,
    () => lane,
  );
  if (!ask) return { refused: 'tooMany' };
  const [proof] = await database().select(PROOF).from(asks).where(eq(asks.id, ask.id));
  return { proof: proof! };
}

const ofOwner = (owner: OwnerRef) => and(eq(asks.ownerId, owner.id), eq(asks.plan, 'proof'));

/** The proofs of a game, the latest first. */
export const listProofs = (owner: OwnerRef, gameId: number): Promise<Proof[]> =>
  database()
    .select(PROOF)
    .from(asks)
    .where(and(ofOwner(owner), eq(asks.gameId, gameId)))
    .orderBy(desc(asks.id))
    .limit(MOST_LISTED);

/** Stops a proof, or takes a finished one away; what is known stays. */
export const stopProof = (owner: OwnerRef, id: number): Promise<boolean> =>
  removeAsk(owner, 'proof', id);
