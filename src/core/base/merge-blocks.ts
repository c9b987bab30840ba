import { BlockWriter, positionsOf, type Block, type Continuation } from './block';

/**
 * Two series of blocks as one. Games of the first have smaller numbers than those of the second.
 * @param first stored blocks in the order of their positions
 */
export function* mergeBlocks(
  first: Iterable<Uint8Array>,
  second: Iterable<Uint8Array>,
): Generator<Block> {
  const writer = new BlockWriter();
  const [left, right] = [positionsIn(first), positionsIn(second)];
  let [a, b] = [left.next(), right.next()];
  while (!a.done || !b.done) {
    if (b.done || (!a.done && a.value[0] < b.value[0])) {
      writer.add(...a.value!);
      a = left.next();
    } else if (a.done || b.value[0] < a.value[0]) {
      writer.add(...b.value);
      b = right.next();
    } else {
      writer.add(a.value[0], joined([a.value[1], b.value[1]]));
      [a, b] = [left.next(), right.next()];
    }
    yield* writer.take();
  }
  yield* writer.take(true);
}

function* positionsIn(blocks: Iterable<Uint8Array>): Generator<[bigint, Continuation[]], void> {
  for (const bytes of blocks) yield* positionsOf(bytes);
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
