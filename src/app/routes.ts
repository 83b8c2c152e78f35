/** Every address of the application under /api, and who answers there. `[name]` stands for one part of the address. */

import * as assignmentsIdAgain from "./api/assignments/[id]/again/route";
import * as assignmentsIdInk from "./api/assignments/[id]/ink/route";
import * as assignmentsIdLayers from "./api/assignments/[id]/layers/route";
import * as assignmentsIdOutput from "./api/assignments/[id]/output/route";
import * as batchesIdAlt from "./api/batches/[id]/alt/route";
import * as batchesIdBrief from "./api/batches/[id]/brief/route";
import * as batchesIdChoice from "./api/batches/[id]/choice/route";
import * as batchesIdComparison from "./api/batches/[id]/comparison/route";
import * as batchesIdComparisonRun from "./api/batches/[id]/comparison/run/route";
import * as batchesIdFrame from "./api/batches/[id]/frame/route";
import * as batchesIdLight from "./api/batches/[id]/light/route";
import * as batchesIdMessages from "./api/batches/[id]/messages/route";
import * as batchesIdPhotos from "./api/batches/[id]/photos/route";
import * as batchesIdRedo from "./api/batches/[id]/redo/route";
import * as batchesIdRefusal from "./api/batches/[id]/refusal/route";
import * as batchesIdRemove from "./api/batches/[id]/remove/route";
import * as batchesIdRestore from "./api/batches/[id]/restore/route";
import * as batchesId from "./api/batches/[id]/route";
import * as batchesIdRuns from "./api/batches/[id]/runs/route";
import * as batchesIdSight from "./api/batches/[id]/sight/route";
import * as batchesIdSlots from "./api/batches/[id]/slots/route";
import * as batchesIdStandIns from "./api/batches/[id]/stand-ins/route";
import * as batchesIdUndo from "./api/batches/[id]/undo/route";
import * as batches from "./api/batches/route";
import * as briefsIdFile from "./api/briefs/[id]/file/route";
import * as briefsIdRestore from "./api/briefs/[id]/restore/route";
import * as briefsId from "./api/briefs/[id]/route";
import * as briefs from "./api/briefs/route";
import * as counterIdBriefs from "./api/counter/[id]/briefs/route";
import * as counterIdHandover from "./api/counter/[id]/handover/route";
import * as counterIdPackageHandover from "./api/counter/[id]/package/handover/route";
import * as counterIdPackage from "./api/counter/[id]/package/route";
import * as counterId from "./api/counter/[id]/route";
import * as counterIdRun from "./api/counter/[id]/run/route";
import * as counterArrivalsIdFile from "./api/counter/arrivals/[id]/file/route";
import * as counterArrivalsId from "./api/counter/arrivals/[id]/route";
import * as counterHandoversId from "./api/counter/handovers/[id]/route";
import * as counterPhotos from "./api/counter/photos/route";
import * as counter from "./api/counter/route";
import * as demo from "./api/demo/route";
import * as desk from "./api/desk/route";
import * as events from "./api/events/route";
import * as itemsIdFile from "./api/items/[id]/file/route";
import * as photosIdKind from "./api/photos/[id]/[kind]/route";
import * as runsIdMail from "./api/runs/[id]/mail/route";
import * as runsIdOut from "./api/runs/[id]/out/route";
import * as runsIdPages from "./api/runs/[id]/pages/route";
import * as runsIdPrint from "./api/runs/[id]/print/route";
import * as runsId from "./api/runs/[id]/route";
import * as runsIdSheet from "./api/runs/[id]/sheet/route";
import * as runsIdState from "./api/runs/[id]/state/route";
import * as runsIdTicks from "./api/runs/[id]/ticks/route";
import * as runsIdZip from "./api/runs/[id]/zip/route";
import * as runs from "./api/runs/route";
import * as sample from "./api/sample/route";
import * as storage from "./api/storage/route";
import * as watch from "./api/watches/[id]/route";
import * as watches from "./api/watches/route";
import * as weighIdPixels from "./api/weigh/[id]/pixels/route";
import * as weighId from "./api/weigh/[id]/route";
import * as weighIdTrials from "./api/weigh/[id]/trials/route";
import type { Route } from "./server";

export const ROUTES: Readonly<Record<string, Route>> = {
  "assignments/[id]/again": assignmentsIdAgain,
  "assignments/[id]/ink": assignmentsIdInk,
  "assignments/[id]/layers": assignmentsIdLayers,
  "assignments/[id]/output": assignmentsIdOutput,
  batches: batches,
  "batches/[id]": batchesId,
  "batches/[id]/alt": batchesIdAlt,
  "batches/[id]/brief": batchesIdBrief,
  "batches/[id]/choice": batchesIdChoice,
  "batches/[id]/comparison": batchesIdComparison,
  "batches/[id]/comparison/run": batchesIdComparisonRun,
  "batches/[id]/frame": batchesIdFrame,
  "batches/[id]/light": batchesIdLight,
  "batches/[id]/messages": batchesIdMessages,
  "batches/[id]/photos": batchesIdPhotos,
  "batches/[id]/redo": batchesIdRedo,
  "batches/[id]/refusal": batchesIdRefusal,
  "batches/[id]/remove": batchesIdRemove,
  "batches/[id]/restore": batchesIdRestore,
  "batches/[id]/runs": batchesIdRuns,
  "batches/[id]/sight": batchesIdSight,
  "batches/[id]/slots": batchesIdSlots,
  "batches/[id]/stand-ins": batchesIdStandIns,
  "batches/[id]/undo": batchesIdUndo,
  briefs: briefs,
  "briefs/[id]": briefsId,
  "briefs/[id]/file": briefsIdFile,
  "briefs/[id]/restore": briefsIdRestore,
  counter: counter,
  "counter/[id]": counterId,
  "counter/[id]/briefs": counterIdBriefs,
  "counter/[id]/handover": counterIdHandover,
  "counter/[id]/package": counterIdPackage,
  "counter/[id]/package/handover": counterIdPackageHandover,
  "counter/[id]/run": counterIdRun,
  "counter/arrivals/[id]": counterArrivalsId,
  "counter/arrivals/[id]/file": counterArrivalsIdFile,
  "counter/handovers/[id]": counterHandoversId,
  "counter/photos": counterPhotos,
  demo: demo,
  desk: desk,
  events: events,
  "items/[id]/file": itemsIdFile,
  "photos/[id]/[kind]": photosIdKind,
  runs: runs,
  "runs/[id]": runsId,
  "runs/[id]/mail": runsIdMail,
  "runs/[id]/out": runsIdOut,
  "runs/[id]/pages": runsIdPages,
  "runs/[id]/print": runsIdPrint,
  "runs/[id]/sheet": runsIdSheet,
  "runs/[id]/state": runsIdState,
  "runs/[id]/ticks": runsIdTicks,
  "runs/[id]/zip": runsIdZip,
  sample: sample,
  storage: storage,
  watches: watches,
  "watches/[id]": watch,
  "weigh/[id]": weighId,
  "weigh/[id]/pixels": weighIdPixels,
  "weigh/[id]/trials": weighIdTrials,
};
