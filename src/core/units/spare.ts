/** Memory that somebody is done with, kept for the next: new pages cost more than the work on some pictures. */

interface Reusable {
  /** Bytes. */
  readonly size: number;
  /** Its memory may be taken anew; what lies in it may stay. */
  clear(): void;
}

/** What waits at most, and the bytes of the largest that is kept. */
const MOST = 2;
const LARGEST = 64_000_000;

export class Spare<T extends Reusable> {
  private readonly waiting: T[] = [];

  constructor(private readonly make: () => T) {}

  take(): T {
    return this.waiting.pop() ?? this.make();
  }

  /** Nobody reads it any more. */
  giveBack(one: T): void {
    if (this.waiting.length >= MOST || one.size > LARGEST) return;
    one.clear();
    this.waiting.push(one);
  }
}
