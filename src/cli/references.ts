import type { GameKind, SearchRoot } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { engineVersion, loadSearch } from '@/engine/hosts/node';
import { playGame } from '@/engine/self-play';
import { UNTIMED, type SearchModule } from '@/engine/search-module';
import type { AnswerLine } from '@/core/ask/question';
import { HASTE, nodesOf, TEMPERATURE } from '../../demo/levels';
import { OPENINGS } from '../../demo/scenario';
import { ENGINE_FILES } from './engine-files';
import { EXIT, usageError } from './exit';
import type { Options } from './options';
import { print } from './print';
import { ReferenceFile, type Reference, type ReferenceGame } from './reference-file';

/** Nodes for the best move of a position, and as many for the move played. */
const NODES = 16_000_000;
const TABLE_MEGABYTES = 256;
/** Later moves are left out. */
const MOST_PLIES = 110;
/** Ratings of the weakest and the strongest pair, and how often a move is played at once. */
const [WEAKEST, STRONGEST, HASTY] = [1150, 2350, 0.06];

/**
 * `references`: plays games between made-up players of levels from club to strong, and looks over each position with long searches;
 * goes on where an earlier run of the same engine stopped.
 */
export async function makeReferences(
  kind: string | undefined,
  folder: string | undefined,
  { games = 12, nodes = NODES, seed = 1, time }: Options,
): Promise<number> {
  if ((kind !== 'chess' && kind !== 'shogi') || folder === undefined)
    throw usageError(
      './bektra references chess|shogi FOLDER [--games N] [--nodes N] [--seed N] [--time SECONDS]',
    );
  const until = performance.now() + (time ?? Infinity) * 1000;
  const search = await loadSearch(ENGINE_FILES, kind, { table: TABLE_MEGABYTES });
  const file = await ReferenceFile.open(folder, kind);
  for (let game = file.games.length; game < games; game++)
    await file.addGame(await play(kind, game, games, seed));
  const engine = await engineVersion(ENGINE_FILES, kind);
  for (const [game, { moves, opening }] of file.games.entries())
    for (const { ply, root, played } of positionsOf(kind, moves)) {
      if (ply < opening || file.isKnown(game, ply, engine)) continue;
      if (performance.now() > until) return EXIT.done;
      await file.addValue({ game, ply, engine, ...lookOver(search, root, played, nodes) });
    }
  print(`${file.values.length} positions of ${file.games.length} games`);
  return EXIT.done;
}

async function play(
  kind: GameKind,
  game: number,
  games: number,
  seed: number,
): Promise<ReferenceGame> {
  const ruleset = rulesetOf(kind);
  // the level of thought of the demo's players is told by nodes in a small table
  const search = await loadSearch(ENGINE_FILES, kind, { table: 1 });
  const random = randomSource(seed * 1_000_003 + game * 7919);
  const share = games > 1 ? game / (games - 1) : 1;
  const rating = Math.round(WEAKEST + share * (STRONGEST - WEAKEST));
  const ratings = [rating, rating + Math.round(80 * (random() - 0.5))] as [number, number];
  const openings = OPENINGS[kind];
  const opening = openings[Math.floor(random() * openings.length)]!;
  const { moves } = playGame(ruleset, search, {
    start: ruleset.startText,
    opening,
    levelAt: (side) => {
      const nodes = nodesOf(kind, ratings[side]!);
      return {
        nodes: random() < HASTY ? Math.round(nodes / HASTE) : nodes,
        temperature: TEMPERATURE,
      };
    },
    random,
  });
  return {
    ratings,
    moves: moves.slice(0, MOST_PLIES).map(({ move }) => ruleset.code(move)),
    opening: opening.length,
  };
}

interface PlayedFrom {
  ply: number;
  root: SearchRoot;
  /** UCI or USI. */
  played: string;
}

/** Positions in which there was more than one move to choose, with the one that was chosen. */
export function positionsOf(kind: GameKind, moves: readonly string[]): PlayedFrom[] {
  const ruleset = rulesetOf(kind);
  const along = [ruleset.start()];
  return moves.flatMap((played, ply) => {
    const position = along.at(-1)!;
    const history = along.slice(0, -1);
    along.push(ruleset.play(position, ruleset.parseCode(played)!));
    return ruleset.choices(position).length > 1
      ? [{ ply, root: ruleset.searchRoot(position, history), played }]
      : [];
  });
}

function lookOver(
  search: SearchModule,
  root: SearchRoot,
  played: string,
  nodes: number,
): Pick<Reference, 'best' | 'played'> {
  const { kind } = search;
  const look = (only?: string[]): AnswerLine & { depth: number } => {
    const question = { kind, root, budget: { nodes, mate: true }, lines: 1, fresh: true, only };
    const { lines, depth } = search.search(question, UNTIMED);
    return { ...lines[0]!, depth };
  };
  const best = look();
  const [move] = best.moves;
  const own = move === played ? null : look([played]);
  return {
    best: { move: move!, score: best.score, depth: best.depth },
    played: own && { score: own.score, depth: own.depth },
  };
}
