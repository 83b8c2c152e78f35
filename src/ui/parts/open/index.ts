export { Menu } from "./menu";
export { Pop } from "./pop";
export type { Trigger } from "./types";
export { useWanted } from "./wanted";
