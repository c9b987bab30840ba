import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { rulesetOf } from '@/core/rulesets';
import { CHANCE_SCALE } from '@/core/review/chance';
import { loadSearch } from '@/engine/hosts/node';
import { randomSource } from '@/engine/draw';
import { playGame } from '@/engine/self-play';
import { ENGINE_FILES } from '../engine-files';
import { OPENINGS } from '../../../demo/scenario';

const BUCKETS = [0, 1, 2, 3];

interface Sample {
  cp: number;
  /** Of the network's outputs. */
  bucket: number;
  /** Points of side 0. */
  points: number;
}

const NODES = [1000, 4000, 16_000];
const LARGEST = 1500;

/** Positions of self-played games, seen from either side, with the engine's score and how the game ended. */
async function playSamples(kind: GameKind, games: number, seed: number): Promise<Sample[]> {
  const ruleset = rulesetOf(kind);
  const search = await loadSearch(ENGINE_FILES, kind, { table: 1 });
  const samples: Sample[] = [];
  for (let game = 0; game < games; game++) {
    const random = randomSource(seed + game * 7717);
    const openings = OPENINGS[kind];
    const opening = openings[Math.floor(random() * openings.length)]!;
    const nodes = NODES[game % NODES.length]!;
    const { moves, result } = playGame(ruleset, search, {
      start: ruleset.startText,
      opening,
      levelAt: () => ({ nodes, temperature: 30 }),
      random,
    });
    const points = result === '1-0' ? 1 : result === '0-1' ? 0 : 0.5;
    let position = ruleset.start();
    moves.forEach(({ move, score }, ply) => {
      if (ply >= opening.length && score.kind === 'cp' && Math.abs(score.cp) <= LARGEST) {
        const bucket = search.outputBucket(ruleset.write(position));
        samples.push(
          { cp: score.cp, points, bucket },
          { cp: -score.cp, points: 1 - points, bucket },
        );
      }
      position = ruleset.play(position, move);
    });
  }
  return samples;
}

const expected = (cp: number, scale: number): number => 1 / (1 + Math.exp(-cp / scale));

const logLoss = (samples: readonly Sample[], scale: number): number =>
  samples.reduce((sum, { cp, points }) => {
    const chance = Math.min(1 - 1e-9, Math.max(1e-9, expected(cp, scale)));
    return sum - points * Math.log(chance) - (1 - points) * Math.log(1 - chance);
  }, 0) / samples.length;

/** The scale of least log loss, by golden-section search. */
function fitScale(samples: readonly Sample[]): number {
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [20, 2000];
  while (high - low > 0.5) {
    const [a, b] = [high - ratio * (high - low), low + ratio * (high - low)];
    if (logLoss(samples, a) < logLoss(samples, b)) high = b;
    else low = a;
  }
  return (low + high) / 2;
}

/** Mean distance, in chance points, between what the curve says and what came of it, over tenths of the curve. */
function calibrationError(samples: readonly Sample[], scale: number): number {
  const bins = Array.from({ length: 10 }, () => ({ count: 0, said: 0, came: 0 }));
  for (const { cp, points } of samples) {
    const chance = expected(cp, scale);
    const bin = bins[Math.min(9, Math.floor(chance * 10))]!;
    bin.count++;
    bin.said += chance;
    bin.came += points;
  }
  const distance = bins.reduce((sum, { said, came }) => sum + Math.abs(said - came), 0);
  return (100 * distance) / samples.length;
}

/** Fits the chance curve on self-played games and measures it on others, also for each output of the network. */
export async function benchChance(games = 300): Promise<void> {
  for (const kind of GAME_KINDS) {
    const inUse = CHANCE_SCALE[kind];
    const fitted = await playSamples(kind, games, 1);
    const heldBack = await playSamples(kind, games, 9_000_001);
    const scale = fitScale(fitted);
    const error = (samples: readonly Sample[], at: number): string =>
      `${calibrationError(samples, at).toFixed(1)} points`;
    console.log(
      `chance ${kind}: ${games} games at ${NODES.join(', ')} nodes, ${fitted.length / 2} positions; best scale ${scale.toFixed(0)}, in use ${inUse}`,
    );
    console.log(
      `  held back: ${games} games, ${heldBack.length / 2} positions, calibration error ${error(heldBack, inUse)} in use, ${error(heldBack, scale)} at the best scale`,
    );
    for (const bucket of BUCKETS) {
      const of = (samples: readonly Sample[]) =>
        samples.filter((sample) => sample.bucket === bucket);
      console.log(
        `  output ${bucket}: ${of(heldBack).length / 2} positions held back, calibration error ${error(of(heldBack), inUse)}; best scale of those fitted ${fitScale(of(fitted)).toFixed(0)}`,
      );
    }
  }
}
