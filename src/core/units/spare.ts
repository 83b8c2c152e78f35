/** Memory that somebody is done with, kept for the next: new pages cost more than the work on some pictures. */

interface Reusable {
  /** Bytes. */
  readonly size: number;
  /** Its memory may be taken anew; what lies in it may stay. */
  clear(): void;
}

/** What waits at most. */
const MOST = 2;

export class Spare<T extends Reusable> {
  private readonly waiting: T[] = [];

  /** `largest`: bytes of the largest that is kept. */
  constructor(
    private readonly make: () => T,
    private readonly largest: number,
  ) {}

  take(): T {
    return this.waiting.pop() ?? this.make();
  }

  /** Nobody reads it any more. */
  giveBack(one: T): void {
    if (this.waiting.length >= MOST || one.size > this.largest) return;
    one.clear();
    this.waiting.push(one);
  }
}
