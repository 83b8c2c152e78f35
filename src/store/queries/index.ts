export { frameKey, measureFirst } from "./batch-briefs";
export { addPhoto, photosWithoutThumb, setAlt } from "./batch-photos";
export {
  type BatchRow,
  getBatch,
  holdBatch,
  listRows,
  rowVersions,
  type StoredRow,
  type Version,
} from "./batch-rows";
export { createBatch, listBatches, putDemoAway, removeBatch, renameBatch, restoreBatch } from "./batches";
export {
  createBrief,
  getRevision,
  listBriefs,
  putOnShelf,
  reviseBrief,
  revisionsWithShelf,
  setShelved,
  shelve,
} from "./briefs";
export { compare, followComparison, MOST_CHOICES, runAll, totals } from "./comparisons";
export {
  type ArrivalRow,
  addArrived,
  addMessage,
  answerArrival,
  beginTry,
  breakOff,
  createHandover,
  createPackage,
  endTry,
  getArrival,
  getHandover,
  type HandoverRow,
  latestPackage,
  listArrivals,
  listHandovers,
  listReceivers,
  openArrival,
  type ReceiverRow,
  setRules,
} from "./counter";
export { editState, makeEdit, stepEdit } from "./edits";
export { keepFailure, measureAgain } from "./failures";
export { FileGoneError, keepBytes, keepFile, keepReceived, releaseFile } from "./files";
export {
  cancelRun,
  getRun,
  giveUpFiles,
  keepFiles,
  pausedFor,
  pauseRun,
  resumeRun,
  retryRun,
} from "./run-control";
export {
  type Finished,
  finishItem,
  type ItemRow,
  itemBrief,
  itemsOf,
  itemVersions,
  type LatestRun,
  latestRun,
  newestRun,
  outputsOf,
  startRun,
  waitingParts,
} from "./runs";
export {
  askTrials,
  bodiesOf,
  keepShare,
  keepTraced,
  type Member,
  membersOf,
  settleShares,
  sharesOf,
  stillSharing,
  touchShares,
} from "./shares";
export { filledSlots, newSlots } from "./slots";
export { checkStore, freeSpace, removeStrays, tidy, usage } from "./storage";
export { type HeldTrial, keepTrials, trialStore } from "./trials";
export { addWatch, countWatched, listWatches, stopWatch, tellWatch, type WatchRow } from "./watches";
export {
  keepPlan,
  keepSize,
  keepWeighError,
  keptTrial,
  loadWeighed,
  seeWeighing,
  stillWeighed,
  stopWeighing,
  trialsOf,
  weighedSize,
} from "./weigh";
export {
  addLostJobs,
  beat,
  buryInstance,
  countDeath,
  DeathWatch,
  deathsOf,
  forgetDeaths,
  healClock,
  MOST_DEATHS,
  signOff,
} from "./workers";
export { getSetting, localWorkspace, putSetting } from "./workspace";
