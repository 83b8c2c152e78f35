export {
  freeName,
  kindOfName,
  namesPhoto,
  outputName,
  safeFolder,
  safeName,
  sameName,
  splitName,
  type WrittenKind,
} from "./name";
export { type NameNote, nameNoteWords, type PlannedName, planNames } from "./plan";
