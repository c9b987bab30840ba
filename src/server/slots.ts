/** Lets only so many run at once; the others wait their turn. */
export class Slots {
  private readonly waiting: (() => void)[] = [];

  constructor(private free: number) {}

  async run<T>(work: () => Promise<T>): Promise<T> {
    if (this.free > 0) this.free--;
    else await new Promise<void>((next) => this.waiting.push(next));
    try {
      return await work();
    } finally {
      const next = this.waiting.shift();
      if (next) next();
      else this.free++;
    }
  }
}
