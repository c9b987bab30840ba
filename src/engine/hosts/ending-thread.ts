import { parentPort, workerData } from 'node:worker_threads';
import type { Aim } from '@/core/endings/aim';
import type { Slice } from '@/core/endings/slice';
import { packSlice, type PackedSlice, type SliceValues } from './ending-files';
import { EndingSolver } from './ending-solver';

/** A slice to be solved, and the values of those that its moves lead to. */
export interface SliceAsked {
  slice: Slice;
  aim: Aim;
  known: ReadonlyMap<string, SliceValues>;
}

export interface SliceTold {
  values: SliceValues;
  /** Of exact values, which stay as they are. */
  packed: PackedSlice | null;
}

const port = parentPort!;
const solver = EndingSolver.load(workerData as string);
port.on('message', ({ slice, aim, known }: SliceAsked) => {
  void solver
    .then((one) => one.solve(slice, known, aim))
    .then((values) => {
      const packed = aim === 'exact' ? packSlice(slice.key, values) : null;
      const told: SliceTold = { values, packed };
      port.postMessage(told);
    });
});
