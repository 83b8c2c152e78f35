export * from "./art";
export * from "./develop";
export * from "./finish";
export * from "./samples";
export * from "./screen";
