export {
  alikeNotes,
  idleNotes,
  partBrief,
  planSet,
  type SetPart,
  withoutSet,
  worthOffering,
} from "./set";
