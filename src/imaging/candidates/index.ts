export { decodeTrial } from "./decode-trial";
export { Judge } from "./judge";
export { memoryTrials } from "./memory-trials";
export { repackJpeg } from "./repack";
export { trace } from "./trace";
export type { TrialStore } from "./trial-store";
export { Workbench } from "./workbench";
