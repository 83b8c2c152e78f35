export * from "./change";
export * from "./readings";
export * from "./sum";
