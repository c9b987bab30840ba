/** A position that is pointed at, and the move that led to it. */
export interface Shown {
  position: string;
  move: string | null;
}
