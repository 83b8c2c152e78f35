export { JpegCoder } from "./coder";
export { packJpeg } from "./pack";
export type { JpegSamples } from "./prepare";
