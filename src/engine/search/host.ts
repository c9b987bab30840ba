/** Called now and then; anything but 0 stops the search. */
// @ts-ignore: decorator
@external('host', 'poll')
export declare function poll(nodes: f64): i32;

/** Called when all lines have been searched to a depth. */
// @ts-ignore: decorator
@external('host', 'report')
export declare function report(depth: i32, deepest: i32, nodes: f64): void;
