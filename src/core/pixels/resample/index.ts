export { type ByteRows, resampleBytes } from "./from-bytes";
export { DEFAULT_ENLARGING, DEFAULT_REDUCING, kernelNames } from "./kernels";
export { type FloatImage, LANES, type RowReader, resample } from "./resample";
export { sampleTurned } from "./rotate";
export { seenAt } from "./seen-at";
export { type Sharpening, sharpen } from "./sharpen";
export { axis } from "./weights";
