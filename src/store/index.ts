export { readEnvironment } from "./env";
export { makeLog } from "./log";
export { migrateStore } from "./migrate";
export { addJob, addJobs, addTrial, announce, PRIORITY } from "./queue";
export {
  assignments,
  batches,
  batchPhotos,
  briefRevisions,
  type EditChange,
  files,
  type ItemSnapshot,
  type ItemState,
  type Measured,
  photos,
  proofs,
  runItems,
  runs,
  type ShareState,
  type ShareTarget,
  type WeighPlan,
} from "./schema";
export { type Database, type Executor, openStore, type Store } from "./store";
