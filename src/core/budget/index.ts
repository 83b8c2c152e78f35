export * from "./arm";
export * from "./fewer";
export * from "./offers";
export * from "./photo";
export * from "./share";
export * from "./words";
