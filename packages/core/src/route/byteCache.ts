/** Keeps values by key within a budget of bytes; what was used longest ago goes first. */
export class ByteCache<T> {
  private readonly kept = new Map<string, { readonly value: T; readonly bytes: number }>();
  private total = 0;

  constructor(private budget: number) {}

  /** Makes the budget so large at least. */
  atLeast(bytes: number): void {
    this.budget = Math.max(this.budget, bytes);
  }

  get(key: string): T | undefined {
    const entry = this.kept.get(key);
    if (!entry) return undefined;
    this.kept.delete(key); // a Map keeps the order of insertion, so putting it back makes it the newest
    this.kept.set(key, entry);
    return entry.value;
  }

  /** A value larger than the whole budget is still kept until the next one comes. */
  set(key: string, value: T, bytes: number): void {
    const old = this.kept.get(key);
    if (old) {
      this.kept.delete(key);
      this.total -= old.bytes;
    }
    for (const [oldest, entry] of this.kept) {
      if (this.total + bytes <= this.budget) break;
      this.kept.delete(oldest);
      this.total -= entry.bytes;
    }
    this.kept.set(key, { value, bytes });
    this.total += bytes;
  }

  get bytes(): number {
    return this.total;
  }
}
