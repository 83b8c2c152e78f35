export {
  alikeNotes,
  idleNotes,
  type PartMade,
  partBrief,
  planSet,
  type SetPart,
  type SetPlan,
  withoutSet,
  worthOffering,
} from "./set";
