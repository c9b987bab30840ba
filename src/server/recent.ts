/** Keeps what was asked for last, as much as there is room for. */
export class Recent<Key, Value> {
  private readonly kept = new Map<Key, { value: Value; size: number }>();
  private size = 0;

  constructor(private readonly most: number) {}

  get(key: Key): Value | undefined {
    const found = this.kept.get(key);
    if (!found) return undefined;
    // the one asked for last stands last
    this.kept.delete(key);
    this.kept.set(key, found);
    return found.value;
  }

  /** What is larger than all the room there is stays until something else comes. */
  set(key: Key, value: Value, size: number): void {
    this.delete(key);
    this.kept.set(key, { value, size });
    this.size += size;
    for (const other of this.kept.keys()) {
      if (this.size <= this.most || other === key) return;
      this.delete(other);
    }
  }

  private delete(key: Key): void {
    const found = this.kept.get(key);
    if (!found) return;
    this.kept.delete(key);
    this.size -= found.size;
  }
}

/**
 * Keeps what some work came to. Many may ask for the same at once; what failed is done anew. Of what is done the outcome alone is kept:
 * a promise would keep the request in which it was made.
 */
export class RecentWork<Key, Value> {
  private readonly done: Recent<Key, { value: Value }>;
  private readonly underWay = new Map<Key, Promise<Value>>();

  /** @param most outcomes that are kept */
  constructor(most: number) {
    this.done = new Recent(most);
  }

  async get(key: Key, work: () => Promise<Value>): Promise<Value> {
    const done = this.done.get(key);
    return done ? done.value : (this.underWay.get(key) ?? this.begin(key, work));
  }

  private async begin(key: Key, work: () => Promise<Value>): Promise<Value> {
    const working = work();
    this.underWay.set(key, working);
    try {
      const value = await working;
      this.done.set(key, { value }, 1);
      return value;
    } finally {
      this.underWay.delete(key);
    }
  }
}
