const EMPTY = new Int32Array(0);

/** Cells of the first growth: few, since from most positions one move is played; 64 bytes cost next to nothing to make. */
const FIRST = 16;

/** A stack of entries of four 32-bit integers; allocates nothing until it is used. */
export class UndoStack {
  cells = EMPTY;
  private top = 0;

  push4(a: number, b: number, c: number, d: number): void {
    const { top } = this;
    if (top === this.cells.length) {
      const grown = new Int32Array(Math.max(FIRST, top * 2));
      grown.set(this.cells);
      this.cells = grown;
    }
    const { cells } = this;
    cells[top] = a;
    cells[top + 1] = b;
    cells[top + 2] = c;
    cells[top + 3] = d;
    this.top = top + 4;
  }

  /** Removes the last entry and returns where it starts in {@link cells}. */
  pop4(): number {
    this.top -= 4;
    return this.top;
  }
}
