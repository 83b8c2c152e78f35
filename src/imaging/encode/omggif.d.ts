declare module "omggif" {
  export class GifReader {
    constructor(file: Uint8Array);
    width: number;
    height: number;
    decodeAndBlitFrameRGBA(frame: number, pixels: Uint8Array): void;
  }
  export class GifWriter {
    constructor(
      into: Uint8Array,
      width: number,
      height: number,
      options: { palette: readonly number[]; loop?: number },
    );
    addFrame(
      x: number,
      y: number,
      width: number,
      height: number,
      indices: Uint8Array,
      options: { delay: number; disposal: number; transparent?: number },
    ): number;
    /** Bytes of the whole. */
    end(): number;
  }
}
