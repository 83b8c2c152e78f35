export * from "./estimate";
export * from "./fit";
export * from "./jpeg";
export * from "./png";
export * from "./types";
