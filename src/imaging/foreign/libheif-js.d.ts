declare module "libheif-js/wasm-bundle.js" {
  interface HeifImage {
    handle: unknown;
    get_width(): number;
    get_height(): number;
    is_primary(): boolean;
    display(
      into: { data: Uint8ClampedArray; width: number; height: number },
      done: (result: { data: Uint8ClampedArray } | null) => void,
    ): void;
  }
  interface Decoded {
    channels?: { data: Uint8Array; width: number; height: number; stride: number; bits_per_pixel: number }[];
  }
  const libheif: {
    HeifDecoder: new () => { decode(bytes: Uint8Array): HeifImage[] };
    heif_js_decode_image2(handle: unknown, colorspace: unknown, chroma: unknown): Decoded;
    heif_colorspace: { heif_colorspace_RGB: unknown };
    heif_chroma: { heif_chroma_interleaved_RRGGBB_LE: unknown };
  };
  export default libheif;
}
