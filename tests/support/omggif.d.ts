declare module "omggif" {
  export class GifReader {
    constructor(file: Uint8Array);
    width: number;
    height: number;
    decodeAndBlitFrameRGBA(frame: number, pixels: Uint8Array): void;
  }
}
