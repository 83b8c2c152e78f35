/** What a decoder hands over: code values as the file has them, in its own colours, not turned. */
export interface Samples {
  data: Uint8Array | Uint16Array;
  width: number;
  height: number;
  /** 1 grey, 2 grey and alpha, 3 RGB, 4 RGB and alpha. Alpha is not premultiplied. */
  channels: number;
  /** The code of white where it is not the highest that the numbers can hold. */
  top?: number;
}
