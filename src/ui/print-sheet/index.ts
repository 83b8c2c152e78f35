export { SheetScreen } from "./sheet-screen";
