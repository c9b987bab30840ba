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

  delete(key: Key): void {
    const found = this.kept.get(key);
    if (!found) return;
    this.kept.delete(key);
    this.size -= found.size;
  }
}

/** What is kept of some work, or is under way: many may ask for the same at once. What failed is done anew when it is asked for again. */
export function doneOnce<Key, Value>(
  kept: Recent<Key, Promise<Value>>,
  key: Key,
  work: () => Promise<Value>,
): Promise<Value> {
  const known = kept.get(key);
  if (known) return known;
  const done = work().catch((error: unknown) => {
    kept.delete(key);
    throw error;
  });
  kept.set(key, done, 1);
  return done;
}
