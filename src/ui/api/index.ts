export { briefOf, NO_BRIEF, useBriefEdit } from "./brief-edit";
export { call, ServerError } from "./call";
export {
  useBatch,
  useChange,
  useCounter,
  useDesk,
  useEvents,
  useReceiver,
  useRun,
  useRuns,
  useShelf,
  useStorage,
  useWatches,
} from "./client";
export type {
  ArrivalView,
  ArrivedFileView,
  BatchNews,
  BatchView,
  BriefInUse,
  BroughtIn,
  ComparedView,
  CounterView,
  DeskView,
  Have,
  LayersView,
  LayerView,
  LighterView,
  MadeView,
  ReceiverView,
  Retaken,
  RowView,
  RunDetail,
  RunItemView,
  RunProgress,
  RunView,
  ShelfBrief,
  SlotView,
  Stepped,
  StorageView,
  TotalView,
  TrialView,
  WeighedSizeView,
  WeighView,
} from "./contract";
export { type Direction, useStepEdit } from "./edit-step";
export type { SetFileView } from "./set-contract";
export { type Arrival, sendPhoto, type Upload, useUploads } from "./upload";
export type { WatchesView, WatchView } from "./watch-contract";
