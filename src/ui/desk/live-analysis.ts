import type { GameKind, Ruleset, SearchRoot, Side, Position } from '@/core/game/ruleset';
import { NULL_MOVE } from '@/core/game/move';
import { chanceOf } from '@/core/review/chance';
import type { Score } from '@/core/game/score';
import type { DepthPoint } from '@/core/review/settled';
import type { Answer, AnswerLine, Question } from '@/core/ask/question';
import type { Engine } from '@/engine/contract';

/** A position that is thought about, and what is wanted of it. */
export interface Task {
  /** Equal for the same position reached by the same moves. */
  place: string;
  kind: GameKind;
  root: SearchRoot;
  side: Side;
  lines: number;
  /** The move played there in the game, in UCI or USI: it is priced even where it is outside the lines. */
  played: string | null;
  /** The position with the other side to move, where its threat is asked for and it may pass. */
  passed: SearchRoot | null;
}

/** What is known of a position so far. */
export interface Live {
  place: string;
  info: Answer;
  curve: readonly DepthPoint[];
  /** The game's own move, where it is outside the lines, and the best score at the depth at which it was priced. */
  played: { code: string; line: AnswerLine; best: Score; depth: number } | null;
  threat: AnswerLine | null;
}

const PRICE_FROM_DEPTH = 8;
const PRICE_EVERY = 2;
const THREAT_MS = 600;

/** Thinks about one position after another on one engine, and remembers what it found at each. */
export class LiveAnalysis {
  private readonly known = new Map<string, Live>();
  private stop = new AbortController();

  /**
   * @param onChange told whenever something is found, or known already, for the position thought about
   * @param onFailure told when the engine fails; the next position is tried as usual
   */
  constructor(
    private readonly engine: Engine,
    private readonly onChange: (live: Live) => void,
    private readonly onFailure: () => void,
  ) {}

  /** Leaves what it was at and turns to another position. */
  think(task: Task): void {
    this.stop.abort();
    this.stop = new AbortController();
    const { signal } = this.stop;
    const known = this.known.get(keyOf(task));
    if (known) this.onChange(known);
    this.run(task, signal).catch(() => {
      if (!signal.aborted) this.onFailure();
    });
  }

  pause(): void {
    this.stop.abort();
  }

  private async run(task: Task, signal: AbortSignal): Promise<void> {
    if (task.passed && !this.known.get(keyOf(task))?.threat) await this.lookForThreat(task, signal);
    for (;;) {
      const pricing = new AbortController();
      const found = await this.engine.search(requestOf(task, { lines: task.lines }), {
        signal: AbortSignal.any([signal, pricing.signal]),
        onInfo: (info) => {
          if (signal.aborted) return;
          this.record(task, info);
          if (this.wantsPrice(task)) pricing.abort();
        },
      });
      if (signal.aborted || !pricing.signal.aborted) return;
      const { depth, lines: shown } = found;
      const code = task.played!;
      const { lines } = await this.engine.search(
        requestOf(task, { lines: 1, only: [code], budget: { depth } }),
        { signal },
      );
      if (signal.aborted) return;
      if (lines[0] && shown[0])
        this.change(task, { played: { code, line: lines[0], best: shown[0].score, depth } });
    }
  }

  private async lookForThreat(task: Task, signal: AbortSignal): Promise<void> {
    const request = { ...requestOf(task, { lines: 1 }), root: task.passed! };
    const { lines } = await this.engine.search(
      { ...request, budget: { milliseconds: THREAT_MS } },
      { signal },
    );
    if (!signal.aborted && lines[0]) this.change(task, { threat: lines[0] });
  }

  private wantsPrice(task: Task): boolean {
    const live = this.known.get(keyOf(task));
    if (task.played === null || !live || live.info.depth < PRICE_FROM_DEPTH) return false;
    if (live.info.lines.some(({ moves }) => moves[0] === task.played)) return false;
    const priced = live.played?.code === task.played ? live.played : null;
    return priced === null || live.info.depth >= priced.depth + PRICE_EVERY;
  }

  /** Keeps what is new; what was known more deeply from an earlier visit stays until it is reached again. */
  private record(task: Task, info: Answer): void {
    const known = this.known.get(keyOf(task));
    const [best] = info.lines;
    if (!best || (known && known.info.depth > info.depth)) return;
    const point = {
      depth: info.depth,
      chance: chanceOf(task.kind, best.score, task.side),
      best: best.moves[0]!,
      isMate: best.score.kind === 'mate',
    };
    const earlier = (known?.curve ?? []).filter(({ depth }) => depth < info.depth);
    this.change(task, { info, curve: [...earlier, point] });
  }

  private change(task: Task, change: Partial<Live>): void {
    const key = keyOf(task);
    const known = this.known.get(key) ?? {
      place: task.place,
      info: { depth: 0, nodes: 0, milliseconds: 0, lines: [] },
      curve: [],
      played: null,
      threat: null,
    };
    const live = { ...known, ...change };
    this.known.set(key, live);
    this.onChange(live);
  }
}

const keyOf = ({ place, lines }: Task): string => `${lines} ${place}`;

const requestOf = (
  { kind, root }: Task,
  wanted: Pick<Question, 'lines'> & Partial<Pick<Question, 'only' | 'budget'>>,
): Question => ({ kind, root, budget: {}, fresh: false, ...wanted });

/** The position with the other side to move, or null where that can't be: in check, or the game is over. */
export function passedRoot(ruleset: Ruleset, position: Position): SearchRoot | null {
  if (ruleset.inCheck(position) || ruleset.moves(position).length === 0) return null;
  const passed = ruleset.play(position, NULL_MOVE);
  return ruleset.moves(passed).length === 0 ? null : ruleset.searchRoot(passed, []);
}
