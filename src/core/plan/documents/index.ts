export { proposeSlots } from "./propose";
