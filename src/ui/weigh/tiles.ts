"use client";

/** Squares of pictures as they come from the server, held while they are of use. */

/** Side of a square in px of its level. */
export const TILE = 512;
/** Squares that are held; each is up to a megabyte. */
const MOST = 180;

export interface Tile {
  data: Uint8ClampedArray<ArrayBuffer>;
  width: number;
  height: number;
  space: PredefinedColorSpace;
  image: ImageBitmap;
}

export interface TileAt {
  /** Halvings. */
  level: number;
  x: number;
  y: number;
}

export class Tiles {
  private readonly held = new Map<string, Tile>();
  private readonly coming = new Map<string, AbortController>();
  private readonly failed = new Map<string, string>();
  private readonly listeners = new Set<() => void>();

  constructor(private readonly assignment: string) {}

  subscribe(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** The square if it is there; else it is fetched, and listeners are told. */
  get(of: string, at: TileAt): Tile | null {
    const key = `${of} ${at.level} ${at.x} ${at.y}`;
    const tile = this.held.get(key);
    if (tile) {
      this.held.delete(key);
      this.held.set(key, tile);
      return tile;
    }
    if (!this.coming.has(key) && !this.failed.has(of)) void this.fetch(key, of, at);
    return null;
  }

  errorOf(of: string): string | null {
    return this.failed.get(of) ?? null;
  }

  /** Lets a picture be asked for again. */
  retry(of: string): void {
    this.failed.delete(of);
  }

  close(): void {
    for (const abort of this.coming.values()) abort.abort();
    for (const tile of this.held.values()) tile.image.close();
    this.held.clear();
    this.listeners.clear();
  }

  private async fetch(key: string, of: string, { level, x, y }: TileAt): Promise<void> {
    const abort = new AbortController();
    this.coming.set(key, abort);
    try {
      const query = new URLSearchParams({ of, level: String(level), x: String(x), y: String(y) });
      const response = await fetch(`/api/weigh/${this.assignment}/pixels?${query}`, { signal: abort.signal });
      if (!response.ok) throw new Error(((await response.json()) as { error?: string }).error ?? `The server answered ${response.status}.`);
      const number = (name: string) => Number(response.headers.get(name));
      const data = new Uint8ClampedArray(await response.arrayBuffer());
      const [width, height] = [number("x-width"), number("x-height")];
      const space = response.headers.get("x-space") === "display-p3" ? "display-p3" : "srgb";
      const image = await createImageBitmap(new ImageData(data, width, height, { colorSpace: space }));
      this.keep(key, { data, width, height, space, image });
    } catch (error) {
      if (!abort.signal.aborted) this.failed.set(of, error instanceof Error ? error.message : String(error));
    }
    this.coming.delete(key);
    for (const listener of this.listeners) listener();
  }

  private keep(key: string, tile: Tile): void {
    this.held.set(key, tile);
    for (const [old, { image }] of this.held) {
      if (this.held.size <= MOST) break;
      image.close();
      this.held.delete(old);
    }
  }
}
