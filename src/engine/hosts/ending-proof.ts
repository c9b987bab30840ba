import { mkdir } from 'node:fs/promises';
import type { ChessPosition } from '@/core/chess/position';
import { chess } from '@/core/chess/ruleset';
import { isBetter, moveBounds, OPEN, placeIn, readValue, type Bounds } from '@/core/endings/exact';
import { turnedAim, valuesName } from '@/core/endings/aim';
import type { Place } from '@/core/endings/numbering';
import {
  isPush,
  positionsOf,
  sizeOf,
  waysOf,
  type Slice,
  type WayKind,
} from '@/core/endings/slice';
import { proveSlices } from './ending-build';
import { isPlain, type ProofPlan } from './ending-plan';
import {
  DamagedEnding,
  EndingFiles,
  packAside,
  writeProofFile,
  type PackedSlice,
  type SliceValues,
} from './ending-files';
import { nameOf, SolvingThreads, type EndingSolverFiles, type Task } from './ending-work';

/** Positions that are solved where pawns have become something else, unless more is asked for. */
export const PROOF_POSITIONS = 1e9;
/** Positions of one side to move of a slice that is solved where a pawn has become something else. */
const MOST_PROMOTED = 4096 * 64 ** 2;

export interface Proving {
  folder: string;
  threads: number;
  signal: AbortSignal;
  /** Positions to be solved where pawns have become something else, at most. */
  budget: number;
  /** @param share of what is to be solved at most, 0–1 @param known of the position, for the side to move */
  onProgress(share: number, known: Bounds): void;
}

/** Proves a position as planned. What is known stays when it is stopped. @throws DamagedEnding where a file is; without it, it is made anew the next time */
export async function proveAs(
  { how, reach }: ProofPlan,
  position: ChessPosition,
  files: EndingSolverFiles,
  proving: Proving,
): Promise<void> {
  await mkdir(proving.folder, { recursive: true });
  if (how === 'exact')
    return proveSlices(files, reach, {
      ...proving,
      onProgress: (share) => proving.onProgress(share, OPEN),
    });
  const tables = new EndingFiles(proving.folder);
  const solving = new SolvingThreads(files, proving.threads, proving.signal);
  const proof = new Proof(position, tables, solving, proving);
  try {
    await proof.run(reach.slices);
  } catch (error) {
    if (error instanceof DamagedEnding) tables.remove(error);
    throw error;
  } finally {
    await solving.end();
    tables.close();
  }
}

/** What is known is kept after so long, and where that takes long, when it would take a small part of the time since. */
const KEEP_MS = 10_000;
const KEEP_SHARE = 0.05;
/** Slices with a new piece that are gone into at a time, fewer where they need many others: the first may decide. */
const AT_ONCE = 12;
const POSITIONS_AT_ONCE = 40e6;
/** Positions that are looked at to find them: to find more, and to find any. */
const ENOUGH_LOOKED = 20_000;
const MOST_LOOKED = 500_000;
/** After so long, others get their turn. */
const TURN_MS = 20;

/** A slice, and for which of its sides it is solved: what they get at least. */
interface SideTask extends Task {
  aim: 0 | 1;
}

interface KnownValues {
  values: SliceValues;
  packed?: PackedSlice;
  /** They are of an earlier proof, which may have been stopped before it made use of all that it knew. */
  isEarlier?: boolean;
}

interface OpenPosition {
  position: ChessPosition;
  /** Whether a pawn has become less than a queen by the last move. */
  isLesser: boolean;
}

/** Steps that a pawn has before it at most. */
const MOST_STEPS = 6;

/** How many steps the pawn that is nearest to it takes to become something else. */
const stepsTo = ({ men }: Slice): number =>
  men.reduce(
    (least, { side, square }) =>
      square === undefined ? least : Math.min(least, side === 0 ? 7 - (square >> 3) : square >> 3),
    MOST_STEPS,
  );

/** Positions to be looked at: those first that are nearest to a promotion. */
class OpenPositions {
  private readonly bySteps: { positions: OpenPosition[]; at: number }[] = Array.from(
    { length: MOST_STEPS + 1 },
    () => ({ positions: [], at: 0 }),
  );

  add(position: OpenPosition, steps: number): void {
    this.bySteps[steps]!.positions.push(position);
  }

  take(): OpenPosition | undefined {
    const list = this.bySteps.find(({ positions, at }) => at < positions.length);
    if (!list) return undefined;
    const next = list.positions[list.at++]!;
    if (list.at === list.positions.length) {
      list.positions = [];
      list.at = 0;
    }
    return next;
  }
}

/**
 * A proof in bounds. All slices without a new piece are solved for both sides: what each gets at least, with whatever a promotion leads to
 * taken to be lost for them. Then those promotions that matter for what is still open are gone into: first for who promotes, then for the
 * other side. Of such a slice, captures and the other side's pawns are followed: one's own pawns may wait.
 */
class Proof {
  private readonly values = new Map<string, KnownValues>();
  /** What is known or about to be, by the names of its values: it is solved again when what it needs is known better. */
  private readonly tasks = new Map<string, SideTask>();
  /** By names of values, what is to be solved again when they change. */
  private readonly users = new Map<string, Set<string>>();
  private readonly tabled = new Map<string, boolean>();
  /** Names of values that no file has. */
  private readonly absent = new Set<string>();
  /** Positions that were open when they were come to, and all that were come to. */
  private readonly open = new OpenPositions();
  private readonly seen = new Set<string>();
  /** Of the first position. */
  private readonly place: Place;
  /** Positions solved so far. */
  private spent = 0;
  private kept = performance.now();
  /** Milliseconds that keeping took the last time. */
  private keeping = 0;

  constructor(
    private readonly root: ChessPosition,
    private readonly tables: EndingFiles,
    private readonly solving: SolvingThreads,
    private readonly proving: Proving,
  ) {
    this.place = placeIn(root) as Place;
    this.open.add({ position: root, isLesser: false }, MOST_STEPS);
  }

  async run(plain: readonly Slice[]): Promise<void> {
    const tasks = plain.flatMap((slice) => ([0, 1] as const).map((aim) => ({ slice, aim })));
    const fresh = tasks.filter((task) => !this.isKnown(task));
    for (const task of fresh) this.choose(task);
    const total = costOf(fresh) + this.proving.budget;
    try {
      await this.solve(fresh, total);
      for (;;) {
        const next = this.affordable(await this.promotionsThatMatter(), total);
        if (next.length === 0) break;
        for (const task of next) this.choose(task);
        await this.solve([...next, ...this.usersOf(next)], total);
        const since = performance.now() - this.kept;
        if (since > KEEP_MS && this.keeping < KEEP_SHARE * since) await this.keep();
      }
    } finally {
      await this.keep();
    }
  }

  /** What is known of a place, for the side to move. */
  private readonly look = (place: Place): Bounds | null => {
    const { toMove, number, slice } = place;
    if (this.isTabled(slice)) return this.tables.bounds(place);
    const resultFor = (side: 0 | 1) => {
      const known = this.values.get(valuesName(slice.key, side));
      return known && readValue(known.values[toMove][number]!).result;
    };
    const least = resultFor(toMove);
    const most = resultFor(otherAim(toMove));
    return least || most ? { least: least ?? OPEN.least, most: most ?? OPEN.most } : null;
  };

  private isTabled(slice: Slice): boolean {
    const known = this.tabled.get(slice.key) ?? this.tables.has(slice);
    this.tabled.set(slice.key, known);
    return known;
  }

  /** Whether the values of a task are known, if only from an earlier proof. */
  private isKnown(task: SideTask): boolean {
    const name = nameOf(task);
    if (this.values.has(name)) return true;
    if (this.absent.has(name)) return false;
    const values = this.tables.all(task.slice, name);
    if (!values) {
      this.absent.add(name);
      return false;
    }
    this.values.set(name, { values, isEarlier: true });
    this.choose(task);
    return true;
  }

  /** Takes note of what a task needs. */
  private choose(task: SideTask): void {
    const name = nameOf(task);
    this.tasks.set(name, task);
    for (const { placing } of waysOf(task.slice)) {
      if (!placing) continue;
      const need = valuesName(placing.slice.key, task.aim, placing.mixed);
      this.users.set(need, (this.users.get(need) ?? new Set()).add(name));
    }
  }

  /** @param total positions that are solved at most */
  private solve(tasks: readonly SideTask[], total: number): Promise<void> {
    return this.solving.solveAll({
      tasks,
      isThere: (name, slice) => this.values.has(name) || this.isTabled(slice),
      load: (name, slice) =>
        this.values.get(name)?.values ??
        (this.isTabled(slice) ? this.tables.all(slice, name) : null),
      before: (task) => {
        const known = this.values.get(nameOf(task));
        return known && !known.isEarlier ? known.values : null;
      },
      store: (task, told) => {
        this.values.set(nameOf(task), { values: told.values });
        this.spent += costOf([task]);
        const known = this.look(this.place) ?? OPEN;
        this.proving.onProgress(Math.min(1, this.spent / total), known);
      },
    });
  }

  /** All that is to be solved again after some tasks. */
  private usersOf(tasks: readonly SideTask[]): SideTask[] {
    const own = new Set(tasks.map(nameOf));
    const found = new Set<string>();
    const open = [...own];
    for (let name = open.pop(); name !== undefined; name = open.pop())
      for (const user of this.users.get(name) ?? []) {
        if (found.has(user) || own.has(user)) continue;
        found.add(user);
        open.push(user);
      }
    return [...found].map((name) => this.tasks.get(name)!);
  }

  /** Those of some tasks, with all that they need, for which there is time. */
  private affordable(tasks: readonly SideTask[], limit: number): SideTask[] {
    const chosen = new Map<string, SideTask>();
    for (const task of tasks) {
      const all = [...chosen.values(), ...this.coneOf(task, chosen)];
      if (chosen.size > 0 && costOf(all) > POSITIONS_AT_ONCE) break;
      if (this.spent + costOf(all) > limit) continue;
      for (const one of all) chosen.set(nameOf(one), one);
    }
    return [...chosen.values()];
  }

  /** A slice with a new piece, and what has to be known for it. */
  private coneOf(task: SideTask, chosen: ReadonlyMap<string, SideTask>): SideTask[] {
    const found = new Map<string, SideTask>();
    const open = [task];
    for (let next = open.pop(); next; next = open.pop()) {
      const name = nameOf(next);
      if (found.has(name) || chosen.has(name)) continue;
      const { slice, aim } = next;
      if (sizeOf(slice) > MOST_PROMOTED || this.isTabled(slice) || this.isKnown(next)) continue;
      found.set(name, next);
      for (const { placing } of waysOf(slice).filter(followed(next)))
        if (placing) open.push({ slice: placing.slice, aim: turnedAim(aim, placing.mixed) });
    }
    return [...found.values()];
  }

  /** Slices with a new piece, and for whom to solve them: those that decide what is open, the cheap and near first. */
  private async promotionsThatMatter(): Promise<SideTask[]> {
    const found = await this.goOn();
    if (found.length > 0) return found;
    // what was passed over may be open still
    this.seen.clear();
    this.open.add({ position: this.root, isLesser: false }, MOST_STEPS);
    return this.goOn();
  }

  /** Goes on through open positions until there is enough to be solved. */
  private async goOn(): Promise<SideTask[]> {
    const queens = new Map<string, SideTask>();
    const others = new Map<string, SideTask>();
    const large = new Map<string, SideTask>();
    const waiting: OpenPosition[] = [];
    let looked = 0;
    let paused = performance.now();
    for (let next = this.open.take(); next; next = this.open.take()) {
      const hasFound = queens.size + others.size + large.size > 0;
      if (queens.size >= AT_ONCE || looked >= (hasFound ? ENOUGH_LOOKED : MOST_LOOKED)) {
        waiting.push(next);
        break;
      }
      if (performance.now() - paused > TURN_MS) {
        await new Promise((next) => setImmediate(next));
        this.proving.signal.throwIfAborted();
        paused = performance.now();
      }
      const { position, isLesser } = next;
      const place = placeIn(position);
      if (place === null || place === 'kings alone') continue;
      const own = this.look(place) ?? OPEN;
      if (position !== this.root && own.least === own.most) continue;
      const task = this.untried(place);
      if (task) {
        waiting.push(next);
        const list = sizeOf(task.slice) === MOST_PROMOTED ? large : isLesser ? others : queens;
        list.set(nameOf(task), task);
        continue;
      }
      for (const { move, bounds } of moveBounds(position, this.look)) {
        looked++;
        if (bounds.least === bounds.most) continue;
        // of the first, each move is to be known
        if (position !== this.root && !isBetter(bounds.most, own.least)) continue;
        const behind = chess.play(position, move);
        const there = placeIn(behind);
        if (there === null || there === 'kings alone') continue;
        const name = `${there.slice.key} ${there.number} ${there.toMove}`;
        if (this.seen.has(name)) continue;
        this.seen.add(name);
        const isLesserNow = /[rbn]$/.test(chess.code(move));
        const steps = this.untried(there) ? 0 : stepsTo(there.slice);
        this.open.add({ position: behind, isLesser: isLesserNow }, steps);
      }
    }
    for (const one of waiting) this.open.add(one, 0);
    const found = [queens, others, large].find(({ size }) => size > 0) ?? queens;
    return [...found.values()].slice(0, AT_ONCE);
  }

  /** For whom a slice that a move led to is to be solved next: who has made it, then the other side; null where there is nothing to do. */
  private untried({ slice, toMove }: Place): SideTask | null {
    if (this.isTabled(slice) || sizeOf(slice) > MOST_PROMOTED) return null;
    for (const aim of [otherAim(toMove), toMove]) {
      const task = { slice, aim };
      if (!this.isKnown(task)) return task;
    }
    return null;
  }

  /** Keeps what is known. */
  private async keep(): Promise<void> {
    const started = performance.now();
    const packed: PackedSlice[] = [];
    for (const [name, known] of this.values) {
      known.packed ??= await packAside(name, known.values);
      packed.push(known.packed);
    }
    if (packed.length > 0) writeProofFile(this.proving.folder, this.place.slice.key, packed);
    this.kept = performance.now();
    this.keeping = this.kept - started;
  }
}

const costOf = (tasks: readonly Task[]): number => positionsOf(tasks.map(({ slice }) => slice));

const otherAim = (aim: 0 | 1): 0 | 1 => (aim === 0 ? 1 : 0);

/** What is followed of a slice with a new piece. */
const followed =
  ({ slice, aim }: SideTask) =>
  (way: WayKind): boolean =>
    isPlain(way) && !(isPush(way) && slice.men[way.mover - 2]!.side === aim);
