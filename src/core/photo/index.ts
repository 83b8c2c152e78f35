export { GeometryError, PhotoError } from "./error";
export {
  AUTO,
  aimedSize,
  CENTRED,
  checkFrame,
  cutsByHand,
  inkSettingsOf,
  lightSettingsOf,
  rawTakingOf,
  tidyFrame,
  turnedSize,
} from "./frame";
export { MOST_ANGLE, MOST_ZOOM } from "./frame-limits";
export { type Frame, frameSchema, type Marks, type Point } from "./frame-schema";
export { DEFAULT_INK, type InkSettings } from "./ink-settings";
export {
  isMirrored,
  orientPixels,
  type QuarterTurn,
  type Rect,
  type Size,
  swapsSides,
  toStored,
  turnOrientation,
  uprightSize,
} from "./orientation";
export {
  DEFAULT_LIGHT,
  DEFAULT_LIGHTER,
  DEFAULT_RAW,
  KERNELS,
  type KernelName,
  sameSettings,
} from "./settings";
export {
  type LayerChoice,
  type Lighter,
  type LightSettings,
  lighterSchema,
  type RawTaking,
} from "./settings-schema";
export { isDiskFull, MachineError, troubleOf } from "./trouble";
