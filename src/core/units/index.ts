export { type ByteRange, formatBytes, parseByteText, resolveByteRange, toBytes } from "./bytes";
export { canonical } from "./canonical";
export { UnitError } from "./error";
export { LENGTH_UNITS, type LengthUnit, POINTS_PER_INCH, parseLength, toInches } from "./length";
export { type Measure, parseMeasure } from "./measure";
export { formatSize, MAX_PIXELS, MAX_SIDE, onPaper, parsePixels } from "./pixels";
export { parseRange, rangeText, type Typed } from "./range";
export { formatPpi, MAX_PPI, parseResolution, trimNumber } from "./resolution";
export { Spare } from "./spare";
