import { FactColumns, suits, type BaseFilter } from '@/core/base/facts';
import { findInBlock, type Block } from '@/core/base/block';
import { moveFigures } from '@/core/base/move-figures';
import { Segment } from '@/core/base/segment';
import type { Move } from '@/core/game/move';
import { GAME_KINDS, type GameKind, type Side } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { bestOf, perSecond, report } from './figures';

const USUAL_GAMES = 20_000;
const PLIES = 80;
/** Half moves in which the same moves come up again and again. */
const KNOWN = 24;
/** Half moves among which positions are asked for. */
const ASKED = 24;
const QUESTIONS = 2000;

interface Played {
  keys: bigint[];
  moves: Move[];
}

/** What the index of a base costs in memory, without a database: to make of generated games, and to ask. */
export function benchBase(games = USUAL_GAMES): void {
  for (const kind of GAME_KINDS) {
    const played = generated(kind, games);
    const facts = factsOf(games);
    let blocks: Block[] = [];
    const seconds = bestOf(3, () => {
      const segment = new Segment();
      played.forEach(({ keys, moves }, game) => segment.add(game, keys, moves));
      blocks = [...segment.blocks()];
    });
    const bytes = blocks.reduce((sum, block) => sum + block.bytes.length, 0);
    report(
      `${kind}: ${games} games of ${PLIES} plies, sorted and packed`,
      `${perSecond(games, seconds)} games, ${(bytes / games).toFixed(0)} bytes a game`,
    );
    for (const [name, filter] of Object.entries(FILTERS))
      report(
        `  a position of the first ${ASKED} half moves, ${name}`,
        times(blocks, played, facts, filter),
      );
  }
}

const FILTERS: Record<string, BaseFilter> = {
  'all games': {},
  'of a rating, years and time class': {
    rating: [1500, 1800],
    years: [2010, 2020],
    timeClass: 'blitz',
  },
};

/** Milliseconds of questions, as often for a position as games met it. */
function times(
  blocks: readonly Block[],
  played: readonly Played[],
  facts: FactColumns,
  filter: BaseFilter,
): string {
  const random = randomSource(2);
  const taken = Array.from({ length: QUESTIONS }, () => {
    const { keys } = played[Math.floor(random() * played.length)]!;
    const ply = Math.floor(random() * ASKED);
    const key = keys[ply]!;
    const started = performance.now();
    const found = findInBlock(blockOf(blocks, key).bytes, key);
    const toMove = (ply % 2) as Side;
    moveFigures(facts, found, toMove, suits(facts, filter, toMove));
    return performance.now() - started;
  }).sort((a, b) => a - b);
  const at = (share: number): string => taken[Math.floor(share * QUESTIONS)]!.toFixed(2);
  return `p50 ${at(0.5)} ms, p95 ${at(0.95)} ms`;
}

/** The block that holds a position. */
function blockOf(blocks: readonly Block[], key: bigint): Block {
  let [low, high] = [0, blocks.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (blocks[middle]!.last < key) low = middle + 1;
    else high = middle;
  }
  return blocks[low]!;
}

/** Games whose first moves are often the same: of the moves there are, the first in a fixed order come up most. */
function generated(kind: GameKind, games: number): Played[] {
  const ruleset = rulesetOf(kind);
  const random = randomSource(1);
  return Array.from({ length: games }, () => {
    let position = ruleset.start();
    const moves: Move[] = [];
    for (let ply = 0; ply < PLIES; ply++) {
      const choices = ruleset.moves(position);
      if (choices.length === 0) break;
      const share = ply < KNOWN ? random() ** 4 : random();
      const move = choices[Math.floor(share * choices.length)]!;
      moves.push(move);
      position = ruleset.play(position, move);
    }
    return { keys: ruleset.keysAlong(ruleset.start(), moves), moves };
  });
}

function factsOf(games: number): FactColumns {
  const random = randomSource(3);
  const facts = new FactColumns(games);
  for (let game = 0; game < games; game++)
    facts.set(game, {
      result: (['1-0', '0-1', '1/2-1/2'] as const)[Math.floor(random() * 3)]!,
      ratings: [1200 + Math.floor(random() * 1000), 1200 + Math.floor(random() * 1000)],
      players: [Math.floor(random() * 500), Math.floor(random() * 500)],
      year: 2000 + Math.floor(random() * 26),
      timeClass: (['blitz', 'rapid', 'long'] as const)[Math.floor(random() * 3)]!,
      rated: true,
      isSetUp: false,
    });
  return facts;
}
