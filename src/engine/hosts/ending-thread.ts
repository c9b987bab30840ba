import { parentPort, workerData } from 'node:worker_threads';
import type { Slice } from '@/core/endings/slice';
import { packSlice, type PackedSlice, type SliceValues } from './ending-files';
import { EndingSolver } from './ending-solver';

/** A slice to be solved, and the values of those that its moves lead to. */
export interface SliceAsked {
  slice: Slice;
  known: ReadonlyMap<string, SliceValues>;
}

export interface SliceTold {
  values: SliceValues;
  packed: PackedSlice;
}

const port = parentPort!;
const solver = EndingSolver.load(workerData as string);
port.on('message', ({ slice, known }: SliceAsked) => {
  void solver
    .then((one) => one.solve(slice, known))
    .then((values) => {
      const told: SliceTold = { values, packed: packSlice(slice.key, values) };
      port.postMessage(told);
    });
});
