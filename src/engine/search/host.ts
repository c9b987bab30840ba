/** Called now and then; anything but 0 stops the search. */
// @ts-ignore: decorator
@external('host', 'poll')
export declare function poll(nodes: f64): i32;

/** Called when all lines have been searched to a depth. */
// @ts-ignore: decorator
@external('host', 'report')
export declare function report(depth: i32, deepest: i32, nodes: f64): void;

/** Bytes of the memory that belong to other threads, which this one is to leave alone. */
// @ts-ignore: decorator
@external('host', 'ownMemoryAt')
declare function ownMemoryAt(): u32;

const first = heap.alloc(16);
/** Every array of this thread comes after this gap. */
export const gap = heap.alloc(<usize>max(16, <i32>ownMemoryAt() - <i32>first - 16));
