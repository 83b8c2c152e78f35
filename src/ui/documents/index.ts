export { SlotCard } from "./slot-card";
export { dragRow, SlotsStrip } from "./slots-strip";
