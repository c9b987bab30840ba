import { BlockCursor, BlockWriter, type Block, type Continuation } from './block';

/** Blocks in the order of their positions, and the next position that was not taken yet. */
interface Series {
  blocks: AsyncIterator<Uint8Array>;
  next: BlockCursor;
}

/**
 * Series of stored blocks, each in the order of its positions, as one; they are read as they are needed. Games have larger numbers from one
 * series to the next.
 */
export async function* mergeBlocks(
  series: readonly AsyncIterable<Uint8Array>[],
): AsyncGenerator<Block> {
  const writer = new BlockWriter();
  let open: Series[] = [];
  for (const one of series) {
    const blocks = one[Symbol.asyncIterator]();
    const next = await nextBlock(blocks);
    if (next) open.push({ blocks, next });
  }
  /** Behind the last position of a block. */
  const readOn = async (one: Series): Promise<void> => {
    const next = await nextBlock(one.blocks);
    if (next) one.next = next;
    else open = open.filter((other) => other !== one);
  };
  for (;;) {
    let [first] = open;
    if (!first) break;
    let isShared = false;
    for (let index = 1; index < open.length; index++) {
      const one = open[index]!;
      if (one.next.key > first.next.key) continue;
      isShared = one.next.key === first.next.key;
      if (!isShared) first = one;
    }
    // only a new block is waited for: there are millions of positions
    if (isShared) {
      const { key } = first.next;
      const some = open.filter(({ next }) => next.key === key);
      writer.add(key, joined(some.map(({ next }) => next.read())));
      for (const one of some) if (!one.next.step()) await readOn(one);
    } else {
      first.next.copyTo(writer);
      if (!first.next.step()) await readOn(first);
    }
    if (writer.hasBlocks) yield* writer.take();
  }
  yield* writer.take(true);
}

/** The next block that holds a position, at the first of them; null at the end. */
async function nextBlock(blocks: AsyncIterator<Uint8Array>): Promise<BlockCursor | null> {
  for (;;) {
    const next = await blocks.next();
    if (next.done) return null;
    const cursor = new BlockCursor(next.value as Uint8Array);
    if (cursor.step()) return cursor;
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
