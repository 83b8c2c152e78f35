export * from "./arm";
export * from "./photo";
export * from "./share";
export * from "./fewer";
export * from "./offers";
export * from "./words";
