export { Candidates, type CandidatesOptions, type Judging } from "./candidates";
export { decodeTrial } from "./decode-trial";
export { Judge } from "./judge";
export { memoryTrials } from "./memory-trials";
export { repackJpeg } from "./repack";
export { trace } from "./trace";
export type { PictureLook, TrialStore } from "./trial-store";
