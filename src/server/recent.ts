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
