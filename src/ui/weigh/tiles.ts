"use client";

/** Squares of pictures as they come from the server, held while they are of use. */

import type { PqName } from "@/core/pixels/colour";
import { type LightView, lightOnScreen } from "@/core/pixels/light";

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
  /**
   * PQ signals, RGBA of 16 bits, where light lies above white; `data` is then as an ordinary screen shows it.
   */
  light: { codes: Uint16Array; primaries: PqName; reach: number } | null;
}

/** What a square looks like at this moment. */
function drawn(
  { data, width, height, space, light }: Omit<Tile, "image">,
  view: LightView,
): Promise<ImageBitmap> {
  const pixels =
    light && view !== "ordinary" ? lightOnScreen(light.codes, light.primaries, view, light.reach) : data;
  return createImageBitmap(new ImageData(pixels, width, height, { colorSpace: space }));
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

  private view: LightView = "ordinary";

  constructor(private readonly assignment: string) {}

  /** How light above white is shown from now on. */
  async show(view: LightView): Promise<void> {
    this.view = view;
    for (const tile of this.held.values()) {
      if (!tile.light) continue;
      const image = await drawn(tile, view);
      tile.image.close();
      tile.image = image;
    }
    for (const listener of this.listeners) listener();
  }

  /** Whether any picture here has light above white. */
  get bright(): boolean {
    return [...this.held.values()].some((tile) => tile.light !== null);
  }

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
      if (!response.ok)
        throw new Error(
          ((await response.json()) as { error?: string }).error ?? `The server answered ${response.status}.`,
        );
      const number = (name: string) => Number(response.headers.get(name));
      const body = await response.arrayBuffer();
      const [width, height] = [number("x-width"), number("x-height")];
      const space = response.headers.get("x-space") === "display-p3" ? "display-p3" : "srgb";
      const primaries = response.headers.get("x-light") as PqName | null;
      const light = primaries && { codes: new Uint16Array(body), primaries, reach: number("x-reach") };
      const data = light
        ? lightOnScreen(light.codes, light.primaries, "ordinary", light.reach)
        : new Uint8ClampedArray(body);
      const tile = { data, width, height, space, light } as const;
      this.keep(key, { ...tile, image: await drawn(tile, this.view) });
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
