export { Engine, type Plane, WINDOW } from "./engine";
export * from "./error";
export * from "./oklab";
export * from "./reference";
export * from "./types";
