import type { GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import type { Budget } from '@/core/ask/question';
import type { Engine } from '@/engine/contract';
import { startExternal } from '@/engine/hosts/external';
import { loadSearch, startEngine } from '@/engine/hosts/node';
import { drawOpening } from '@/engine/learning/samples';
import { playMatchGame, type Player } from '@/engine/match/match';
import {
  figuresOf,
  logLikelihoodRatio,
  SPRT_BOUND,
  type PairCounts,
} from '@/engine/match/statistics';
import { randomSource } from '@/engine/draw';
import { ENGINE_FILES } from './engine-files';
import { EXIT, usageError } from './exit';
import { readLimits } from './option-schema';
import type { Options } from './options';

/** With `sprt`, two Elo differences, a match stops once it tells them apart. */
export type MatchOptions = Pick<
  Options,
  'games' | 'nodes' | 'time' | 'depth' | 'concurrency' | 'seed' | 'sprt'
>;

const TABLE_MEGABYTES = 32;
const OPENING_PLIES = 8;
/** What a player has for a move where nothing else is said. */
const ORDINARY_MS = 100;

interface Entrant {
  /** `current`, a .wasm module, or the command line of a UCI or USI program. */
  what: string;
  budget: Budget;
}

/** Who plays; `@nodes=…` behind it sets its own limit. */
function readEntrant(text: string, common: Budget): Entrant {
  const [what, own] = text.split('@') as [string, string | undefined];
  return { what, budget: own === undefined ? common : limitsOf(readLimits(own)) };
}

function openEngine(kind: GameKind, what: string): Promise<Engine> {
  const options = { tableMegabytes: TABLE_MEGABYTES, kinds: [kind] };
  if (what === 'current') return startEngine(ENGINE_FILES, options);
  if (what.endsWith('.wasm'))
    return startEngine(ENGINE_FILES, { ...options, other: { [kind]: what } });
  const [file, ...args] = what.split(' ').filter((word) => word !== '');
  if (!file) throw usageError('A player is `current`, a .wasm file, or the command of a program.');
  return startExternal({ kind, command: [file, ...args] });
}

/** All budget given, or the ordinary one. */
function limitsOf({ nodes, depth, time }: Pick<MatchOptions, 'nodes' | 'depth' | 'time'>): Budget {
  const isLimited = [nodes, depth, time].some((limit) => limit !== undefined);
  return isLimited ? { nodes, depth, milliseconds: time } : { milliseconds: ORDINARY_MS };
}

const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;
const signed = (elo: number): string =>
  (elo > 0 ? '+' : '') + (Number.isFinite(elo) ? elo.toFixed(0) : String(elo));

function summary(
  pairs: PairCounts,
  points: readonly number[],
  sprt: [number, number] | null,
): string {
  const { score, low, high, elo, eloLow, eloHigh } = figuresOf(pairs);
  const won = points.filter((point) => point === 1).length;
  const drawn = points.filter((point) => point === 0.5).length;
  const ratio = sprt
    ? `, likelihood ratio ${logLikelihoodRatio(pairs, ...sprt).toFixed(2)} of ±${SPRT_BOUND.toFixed(2)}`
    : '';
  return (
    `${points.length} games: ${won} won, ${drawn} drawn, ${points.length - won - drawn} lost; ` +
    `score ${percent(score)} (95 %: ${percent(low)} to ${percent(high)}), ` +
    `Elo ${signed(elo)} (${signed(eloLow)} to ${signed(eloHigh)})${ratio}`
  );
}

/** Plays a match between two engines, each opening twice with colours changed, and prints how it stands. */
export async function match(
  kind: string | undefined,
  a: string | undefined,
  b: string | undefined,
  options: MatchOptions,
): Promise<number> {
  if ((kind !== 'chess' && kind !== 'shogi') || a === undefined || b === undefined)
    throw usageError(
      './bektra match chess|shogi A B [--games N] [--nodes N | --time MS | --depth N] [--sprt=-5,10]',
    );
  const ruleset = rulesetOf(kind);
  const wanted = Math.ceil((options.games ?? 100) / 2);
  const { sprt } = options;
  const entrants = [readEntrant(a, limitsOf(options)), readEntrant(b, limitsOf(options))];
  const random = randomSource(options.seed ?? 1);
  const search = await loadSearch(ENGINE_FILES, kind, { table: 1 });
  const pairs: PairCounts = [0, 0, 0, 0, 0];
  const points: number[] = [];
  let begun = 0;
  let over = false;

  async function playPairs(): Promise<void> {
    const players: Player[] = [];
    try {
      for (const { what, budget } of entrants)
        players.push({ engine: await openEngine(ruleset.kind, what), budget });
      const [one, other] = players as [Player, Player];
      while (begun < wanted && !over) {
        begun++;
        search.clear();
        const { codes } = drawOpening(ruleset, search, random, OPENING_PLIES);
        const first = await playMatchGame(ruleset, [one, other], codes);
        const second = 1 - (await playMatchGame(ruleset, [other, one], codes));
        points.push(first, second);
        pairs[Math.round((first + second) * 2) as 0]++;
        process.stderr.write(`\r${summary(pairs, points, sprt ?? null)}  `);
        if (sprt && Math.abs(logLikelihoodRatio(pairs, ...sprt)) >= SPRT_BOUND) over = true;
      }
    } finally {
      for (const { engine } of players) engine.close();
    }
  }

  await Promise.all(Array.from({ length: options.concurrency ?? 1 }, playPairs));
  process.stderr.write('\n');
  process.stdout.write(`${kind}, ${a} against ${b}: ${summary(pairs, points, sprt ?? null)}\n`);
  return EXIT.done;
}
