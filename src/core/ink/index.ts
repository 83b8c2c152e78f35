export * from "./find";
export * from "./notes";
export * from "./otsu";
export * from "./render";
export * from "./types";
