export { attachment, checkId, RequestError, readBody, route } from "./answer";
export { changeBatch, requireBatch } from "./batch";
export { bring } from "./bring";
export {
  arrivedSizes,
  beginPackage,
  counterView,
  fillSlot,
  handOverPackage,
  photosToChoose,
  receiverView,
  requireArrival,
  runForForm,
  shelveBriefs,
} from "./counter";
export { requireReceiver, startMailbox } from "./counter-desk";
export { atDoor } from "./doors";
export { editStep } from "./edit-step";
export { events } from "./events";
export { faultOf, refusalOf } from "./guard";
export { beginHandover, tryAgain } from "./hand-over";
export { layersView, lighterView } from "./layers";
export { forScreen } from "./look";
export { paced } from "./paced";
export {
  originalPicture,
  originalSize,
  referencePicture,
  type Shown,
  trialPicture,
  wayPicture,
} from "./pictures";
export { printable } from "./print";
export { revised, slotsWith } from "./revise";
export { listRunViews, mailFiles, requireRun, runDetail, sheetOf } from "./runs";
export { apiOf, bodyOf, type Route } from "./serve";
export { beginSlots, fillSlots, MOST_SLOTS } from "./slots";
export { getStore, getWorkspace, serveFrom } from "./store";
export { batchView } from "./views";
export { requireWeighed, seenAs, sizeAt, sizesOf, trialView, waysOf, weighedGeometry } from "./weigh";
