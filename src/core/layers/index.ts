export * from "./blend";
export * from "./compose";
export * from "./stack-xml";
export * from "./types";
export * from "./tree";
export * from "./weights";
