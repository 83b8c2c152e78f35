export {
  allowedFormats,
  keepsFrames,
  keepsLayers,
  movingFormats,
  reasonsToEncode,
  writtenKind,
} from "./pass";
export { KEPT_MOVING, passSteps, planSteps, type Step } from "./steps";
export { MARK_HEAD, type Verdict, verdictOf } from "./verdict";
