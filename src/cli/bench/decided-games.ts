import { evaluate } from '@/core/ask/evaluate';
import type { Ask } from '@/core/ask/question';
import { settleGame } from '@/core/ask/settle-game';
import { sweptPositions, type SweptPosition } from '@/core/ask/swept';
import type { Move } from '@/core/game/move';
import { GAME_KINDS, type GameKind, type Position } from '@/core/game/ruleset';
import {
  settingsText,
  SWEEP_PRESETS,
  type Effort,
  type SearchSettings,
} from '@/core/review/sweep-settings';
import { rulesetOf } from '@/core/rulesets';
import { randomSource } from '@/engine/draw';
import { loadSearch } from '@/engine/hosts/node';
import { UNTIMED, type SearchModule } from '@/engine/search-module';
import { askHere } from '../ask-here';
import { ENGINE_FILES } from '../engine-files';
import { report } from './figures';
import { recordOf } from './record-of';

const GAMES = 200;
const MOST_PLIES = 160;

/** Efforts that a sweep distributes, with of how many games one is gone over: the dearer, the fewer. */
const EFFORTS: readonly (readonly [Effort, number])[] = [
  [{ nodes: SWEEP_PRESETS.quick }, 1],
  [{ nodes: SWEEP_PRESETS.standard }, 10],
  [{ nodes: SWEEP_PRESETS.deep }, 50],
  [{ milliseconds: 1000 }, 25],
  [{ milliseconds: 3000 }, 50],
  [{ milliseconds: 10_000 }, 100],
];

/** Settings by which all positions are looked at alike, with of how many positions one is. */
const ALIKE: readonly (readonly [SearchSettings, number])[] = [
  [{ nodes: 20_000, lines: 3 }, 4],
  [{ nodes: 100_000, lines: 3 }, 24],
  [{ nodes: 400_000, lines: 3 }, 100],
  [{ nodes: 2_000_000, lines: 3 }, 500],
  [{ nodes: 10_000_000, lines: 3 }, 2500],
  [{ depth: 8, lines: 3 }, 60],
  [{ depth: 10, lines: 3 }, 600],
  [{ depth: 12, lines: 3 }, 1200],
  [{ depth: 14, lines: 3 }, 1800],
  [{ depth: 16, lines: 3 }, 1800],
  [{ milliseconds: 1000, lines: 3 }, 100],
  [{ milliseconds: 3000, lines: 3 }, 300],
  [{ milliseconds: 10_000, lines: 3 }, 1000],
];

/** What the dearest position of games that are decided comes to, of what a sweep may spend on one. */
export async function benchDecided(games = GAMES): Promise<void> {
  for (const kind of GAME_KINDS) await benchKind(kind, Math.ceil(games / GAME_KINDS.length));
}

async function benchKind(kind: GameKind, count: number): Promise<void> {
  const search = await loadSearch(ENGINE_FILES, kind, { table: 16 });
  const games = Array.from({ length: count }, (_, seed) => decidedGame(search, kind, seed));
  const positions = games.flatMap((game) => game.filter(({ over }) => over === null));
  report(`${kind}: ${count} one-sided games`, `${positions.length} positions`);
  const every = <T>(list: readonly T[], step: number) =>
    list.filter((_, index) => index % step === 0);
  for (const [effort, step] of EFFORTS) await benchEffort(search, kind, effort, every(games, step));
  for (const [settings, step] of ALIKE)
    await benchAlike(search, kind, settings, every(positions, step));
}

/** What was spent on one position. */
interface Spent {
  nodes: number;
  /** In the unit of the budget. */
  cost: number;
  position: SweptPosition;
}

async function benchEffort(
  search: SearchModule,
  kind: GameKind,
  effort: Effort,
  games: readonly (readonly SweptPosition[])[],
): Promise<void> {
  const spent: Spent[] = [];
  for (const game of games) {
    const at = new Map(
      game.map((position) => [position.root, { nodes: 0, cost: 0, position } satisfies Spent]),
    );
    const here = askHere(search);
    const ask: Ask = async (question) => {
      const answer = await here(question);
      const sum = at.get(question.root)!;
      sum.nodes += answer.nodes;
      sum.cost += effort.nodes === undefined ? answer.milliseconds : answer.nodes;
      return answer;
    };
    await settleGame(kind, game, effort)(ask, () => undefined);
    spent.push(...at.values());
  }
  tell(settingsText({ average: effort }), effort.nodes ?? effort.milliseconds!, spent);
}

async function benchAlike(
  search: SearchModule,
  kind: GameKind,
  settings: SearchSettings,
  positions: readonly SweptPosition[],
): Promise<void> {
  const ask = askHere(search);
  const spent: Spent[] = [];
  for (const position of positions) {
    const { main, priced } = await evaluate(ask, kind, position, settings);
    const nodes = main.nodes + (priced?.nodes ?? 0);
    const milliseconds = main.milliseconds + (priced?.milliseconds ?? 0);
    // a depth is no number of nodes: there the main search is the budget
    const cost =
      settings.depth === undefined
        ? settings.nodes === undefined
          ? milliseconds
          : nodes
        : nodes / main.nodes;
    spent.push({ nodes, cost, position });
  }
  const budget = settings.nodes ?? settings.milliseconds ?? 1;
  tell(settingsText(settings), budget, spent);
}

function tell(name: string, budget: number, spent: readonly Spent[]): void {
  const dearest = spent.reduce((most, one) => (one.cost > most.cost ? one : most));
  const nodes = Math.max(...spent.map((one) => one.nodes));
  const { root, played } = dearest.position;
  report(
    `  ${name}, ${spent.length} positions: dearest`,
    `${(dearest.cost / budget).toFixed(2)} × the budget, at most ${(nodes / 1e6).toFixed(2)} M nodes (${root.position} ${played})`,
  );
}

/** A game of a player against one who moves at random, up to the mate. */
function decidedGame(search: SearchModule, kind: GameKind, seed: number): SweptPosition[] {
  const ruleset = rulesetOf(kind);
  const draw = randomSource(seed + 1);
  const along: Position[] = [ruleset.start()];
  const moves: string[] = [];
  const best = (position: Position, history: readonly Position[]): string | undefined => {
    const root = ruleset.searchRoot(position, history);
    const question = { kind, root, budget: { nodes: 1500 }, lines: 1, fresh: true };
    return search.search(question, UNTIMED).lines[0]?.moves[0];
  };
  const any = (all: readonly Move[]): string => ruleset.code(all[Math.floor(draw() * all.length)]!);
  while (moves.length < MOST_PLIES) {
    const position = along.at(-1)!;
    const history = along.slice(0, -1);
    if (ruleset.status(position, history).state === 'over') break;
    const all = ruleset.moves(position);
    const isPlayer = (moves.length + seed) % 2 === 0;
    const played = (isPlayer ? best(position, history) : undefined) ?? any(all);
    moves.push(played);
    along.push(ruleset.play(position, ruleset.parseCode(played)!));
  }
  return sweptPositions(recordOf(kind, moves));
}
