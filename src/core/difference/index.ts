export { Engine, WINDOW, type Plane } from "./engine";
export * from "./error";
export * from "./oklab";
export * from "./reference";
export * from "./types";
