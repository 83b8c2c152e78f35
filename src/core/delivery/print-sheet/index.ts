export { layOut } from "./lay-out";
export { cutsOf } from "./lines";
export { SHEETS } from "./sizes";
export { type Piece, type Placed, type Sheet, SheetError, type SheetTask, sheetTask } from "./task";
