import { LRUCache } from "lru-cache";
import type { Size } from "@/core/photo";

/**
 * What was worked out last about pictures: small ones, and beside them a single large one, which takes hundreds
 * of megabytes. Trials of a large picture and of its sample take turns. What is let go of is told that it has ended.
 */
export class Held<T extends { end(): void }> {
  private readonly small: LRUCache<string, T>;
  private large: { key: string; value: T } | null = null;

  /** `most`: pixels of small pictures that are held together; one of more than half of them is large. */
  constructor(private readonly most: number) {
    this.small = new LRUCache({ maxSize: most, dispose: (value) => value.end() });
  }

  /** What is held under the key; null where nothing is. */
  peek(key: string): T | null {
    return (this.large?.key === key ? this.large.value : this.small.get(key)) ?? null;
  }

  /** What is held under the key, or what `make` gives for a picture of this size. */
  get(key: string, { width, height }: Size, make: () => T): T {
    if (this.large?.key === key) return this.large.value;
    const known = this.small.get(key);
    if (known) return known;
    const size = width * height;
    if (size <= this.most / 2) {
      const value = make();
      this.small.set(key, value, { size });
      return value;
    }
    // Let go before the next is made: two would need the memory twice.
    this.large?.value.end();
    this.large = null;
    this.large = { key, value: make() };
    return this.large.value;
  }
}
