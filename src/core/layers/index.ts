export * from "./blend";
export * from "./compose";
export * from "./stack-xml";
export * from "./tree";
export * from "./types";
export * from "./weights";
