import { BlockWriter, positionsOf, type Block, type Continuation } from './block';

/**
 * Series of stored blocks, each in the order of its positions, as one; they are read as they are needed. Games have larger numbers from one
 * series to the next.
 */
export async function* mergeBlocks(
  series: readonly AsyncIterable<Uint8Array>[],
): AsyncGenerator<Block> {
  const writer = new BlockWriter();
  const open = series.map((blocks) => new Positions(blocks[Symbol.asyncIterator]()));
  for (const one of open) await one.read();
  for (;;) {
    let key: bigint | null = null;
    for (const { now } of open) if (now && (key === null || now[0] < key)) key = now[0];
    if (key === null) break;
    const parts: (readonly Continuation[])[] = [];
    for (const one of open) {
      if (one.now?.[0] !== key) continue;
      parts.push(one.now[1]);
      // only a new block is waited for: there are millions of positions
      if (!one.step()) await one.read();
    }
    writer.add(key, parts.length === 1 ? parts[0]! : joined(parts));
    if (writer.hasBlocks) yield* writer.take();
  }
  yield* writer.take(true);
}

/** The positions of a series of blocks, one after the other. */
class Positions {
  /** Null at the end. */
  now: readonly [bigint, Continuation[]] | null = null;
  private within: Iterator<[bigint, Continuation[]], void> | null = null;

  constructor(private readonly blocks: AsyncIterator<Uint8Array>) {}

  /** Goes on to the next position of the block; false at its end. */
  step(): boolean {
    const next = this.within?.next();
    if (!next || next.done) return false;
    this.now = next.value;
    return true;
  }

  /** Goes on to the first position of the next block. */
  async read(): Promise<void> {
    const next = await this.blocks.next();
    this.within = next.done ? null : positionsOf(next.value as Uint8Array);
    this.now = null;
    if (!next.done && !this.step()) await this.read();
  }
}

/** What was played at one position in any of some parts, whose games have larger numbers from one to the next. */
export function joined(parts: readonly (readonly Continuation[])[]): Continuation[] {
  const byMove = new Map<Continuation['move'], (readonly number[])[]>();
  for (const part of parts)
    for (const { move, games } of part) {
      const known = byMove.get(move);
      if (known) known.push(games);
      else byMove.set(move, [games]);
    }
  // put together at once: to add one part after the other would copy the first ones again and again
  return Array.from(byMove, ([move, [first, ...more]]) => ({
    move,
    games: more.length === 0 ? first! : first!.concat(...more),
  }));
}
