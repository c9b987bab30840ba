import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { sweepGame } from '@/core/ask/sweep-game';
import type { Ask } from '@/core/ask/question';
import { GAME_KINDS, type GameKind } from '@/core/game/ruleset';
import { accuracyOf } from '@/core/review/accuracy';
import { lossOf } from '@/core/review/chance';
import { findingsFrom } from '@/core/review/findings';
import type { MoveReview } from '@/core/review/review';
import {
  settingsText,
  SWEEP_PRESETS,
  type SweepPreset,
  type SweepSettings,
} from '@/core/review/sweep-settings';
import { THRESHOLDS } from '@/core/review/verdict';
import { engineVersion, startEngine } from '@/engine/hosts/node';
import { EnginePool } from '@/worker/engine-pool';
import { ENGINE_FILES } from '../engine-files';
import { ReferenceFile, type Reference } from '../reference-file';
import { report } from './figures';
import { recordOf } from './record-of';

/** Points by which a flag may differ from the reference's and still be the same judgement. */
const WITHIN = 3;

const FOLDER = join(process.env.BEKTRA_ROOT ?? process.cwd(), 'tests/verdicts');

interface Compared {
  game: number;
  ours: MoveReview;
  /** What the reference says that the move loses. */
  loss: number;
}

/** How well the verdicts of sweeps agree with long searches, by preset, with and without distribution of the effort. */
export async function benchVerdicts(
  presets: readonly SweepPreset[],
  folder = FOLDER,
  games = Infinity,
): Promise<void> {
  for (const kind of GAME_KINDS) {
    const engines = Array.from({ length: availableParallelism() }, () =>
      startEngine(ENGINE_FILES, { kinds: [kind] }),
    );
    const pool = new EnginePool(await Promise.all(engines));
    const file = await ReferenceFile.open(folder, kind);
    await tellEngines(kind, file);
    for (const preset of presets) {
      const nodes = SWEEP_PRESETS[preset];
      for (const settings of [{ average: { nodes } }, { nodes, lines: 1 }])
        await benchSettings(kind, pool, file, settings, games);
    }
    pool.close();
  }
}

/** Which engine made the references: another one than is measured may judge otherwise. */
async function tellEngines(kind: GameKind, { values }: ReferenceFile): Promise<void> {
  const version = await engineVersion(ENGINE_FILES, kind);
  const own = values.filter(({ engine }) => engine === version).length;
  report(`${kind}: references`, `${own} by this engine, ${values.length - own} by others`);
}

async function benchSettings(
  kind: GameKind,
  pool: EnginePool,
  file: ReferenceFile,
  settings: SweepSettings,
  games: number,
): Promise<void> {
  const compared: Compared[] = [];
  const spent = { nodes: 0, positions: 0 };
  const ask: Ask = async (question) => {
    const answer = await pool.askOf(new AbortController().signal, 'batch')(question);
    spent.nodes += answer.nodes;
    return answer;
  };
  const started = performance.now();
  for (const [game, { moves, opening }] of file.games.slice(0, games).entries()) {
    const references = file.values.filter((value) => value.game === game);
    if (references.length < moves.length - opening - 5) continue;
    const record = recordOf(kind, moves);
    const { total, evaluations } = await sweepGame(record, settings)(ask, () => undefined);
    spent.positions += total;
    const { findings } = findingsFrom(record, evaluations());
    for (const reference of references)
      compared.push({
        game,
        ours: findings.moves[reference.ply]!,
        loss: referenceLoss(kind, findings.moves[reference.ply]!.side, reference),
      });
  }
  if (compared.length === 0) return report(`${kind}: games with all their references`, 'none');
  const seconds = (performance.now() - started) / 1000;
  report(
    `${kind}, ${settingsText(settings)}: ${compared.length} moves`,
    `${(spent.nodes / spent.positions / 1000).toFixed(0)} k nodes a position, ${seconds.toFixed(0)} s`,
  );
  tell(compared);
}

const referenceLoss = (
  kind: GameKind,
  side: MoveReview['side'],
  { best, played }: Reference,
): number => (played ? lossOf(kind, best.score, played.score, side) : 0);

function tell(compared: readonly Compared[]): void {
  const distance = ({ ours, loss }: Compared): number => Math.abs(ours.loss - loss);
  const mean = (some: readonly Compared[]): string =>
    (some.reduce((sum, one) => sum + distance(one), 0) / some.length).toFixed(2);
  const agrees = (found: number, wanted: number, threshold: number): boolean =>
    wanted >= threshold || Math.abs(found - wanted) <= WITHIN;
  const share = (all: readonly Compared[], agreed: readonly Compared[]): string =>
    `${agreed.length} of ${all.length} (${((100 * agreed.length) / all.length).toFixed(0)} %)`;
  report('  mean difference of loss', `${mean(compared)} points`);
  for (const [name, threshold] of [
    ['flagged', THRESHOLDS.mistake],
    ['blunders', THRESHOLDS.blunder],
  ] as const) {
    const ours = compared.filter(({ ours: { loss } }) => loss >= threshold);
    const theirs = compared.filter(({ loss }) => loss >= threshold);
    report(
      `  ${name}: the reference agrees`,
      share(
        ours,
        ours.filter((one) => agrees(one.ours.loss, one.loss, threshold)),
      ),
    );
    report(
      `  ${name} by the reference: found`,
      share(
        theirs,
        theirs.filter((one) => agrees(one.loss, one.ours.loss, threshold)),
      ),
    );
  }
  const unsettled = compared.filter(({ ours }) => ours.isUnsettled);
  const deviation = (some: readonly Compared[]): string =>
    some.length === 0
      ? '–'
      : Math.sqrt(some.reduce((sum, one) => sum + distance(one) ** 2, 0) / some.length).toFixed(1);
  const settled = compared.filter(({ ours }) => !ours.isUnsettled);
  report(
    '  standard deviation of loss: settled, unsettled',
    `${deviation(settled)} (${settled.length} moves), ${deviation(unsettled)} (${unsettled.length})`,
  );
  tellAccuracy(compared);
}

/** By how much the accuracy of a side in a game differs from what it is by the reference's losses. */
function tellAccuracy(compared: readonly Compared[]): void {
  const bySide = new Map<string, Compared[]>();
  for (const one of compared.filter(({ ours }) => ours.isChoice)) {
    const name = `${one.game} ${one.ours.side}`;
    bySide.set(name, [...(bySide.get(name) ?? []), one]);
  }
  const differences = [...bySide.values()].map((moves) => {
    const ours = accuracyOf(moves.map((one) => one.ours));
    const theirs = accuracyOf(moves.map((one) => ({ ...one.ours, loss: one.loss })));
    return { points: Math.abs(ours.value! - theirs.value!), error: ours.error ?? Infinity };
  });
  const mean = differences.reduce((sum, { points }) => sum + points, 0) / differences.length;
  const most = Math.max(...differences.map(({ points }) => points));
  const within = differences.filter(({ points, error }) => points <= error).length;
  report(
    '  accuracy of a side in a game: difference',
    `${mean.toFixed(1)} points on average, ${most.toFixed(1)} at most; ${within} of ${differences.length} within its error`,
  );
}
