export { type ByteRows, resampleBytes } from "./from-bytes";
export { DEFAULT_ENLARGING, DEFAULT_REDUCING, kernelNames } from "./kernels";
export { type FloatImage, type RowReader, resample } from "./resample";
export { sampleTurned } from "./rotate";
export { LANES } from "./rows";
export { seenAt } from "./seen-at";
export { type Sharpening, sharpen } from "./sharpen";
export { axis } from "./weights";
