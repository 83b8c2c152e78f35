export { GeometryError, PhotoError } from "./error";
export {
  AUTO,
  aimedSize,
  CENTRED,
  checkFrame,
  cutsByHand,
  type Frame,
  frameSchema,
  inkSettingsOf,
  lightSettingsOf,
  type Marks,
  MOST_ANGLE,
  MOST_ZOOM,
  type Point,
  rawTakingOf,
  tidyFrame,
  turnedSize,
} from "./frame";
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
  type LayerChoice,
  type Lighter,
  type LightSettings,
  lighterSchema,
  type RawTaking,
  sameSettings,
} from "./settings";
export { isDiskFull, MachineError, troubleOf } from "./trouble";
