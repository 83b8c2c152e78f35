export { readEnvironment } from "./env";
export { makeLog } from "./log";
export { migrateStore } from "./migrate";
export { addJob, addJobs, addTrial, announce, PRIORITY, type Task } from "./queue";
export type {
  EditChange,
  ItemSnapshot,
  ItemState,
  Measured,
  MeasuredFile,
  ShareState,
  ShareTarget,
  Slot,
  WeighedSize,
  WeighPlan,
} from "./rows";
export { NOT_MADE } from "./rows";
export {
  assignments,
  batches,
  batchPhotos,
  briefRevisions,
  files,
  photos,
  proofs,
  runItems,
  runs,
} from "./schema";
export { type Database, type Executor, openStore, type Store } from "./store";
