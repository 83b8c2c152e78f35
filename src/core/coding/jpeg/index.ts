export { JpegCoder } from "./coder";
export type { JpegPixels } from "./decode";
export { packJpeg } from "./pack";
export type { JpegSamples } from "./prepare";
