export * from "./compress";
export * from "./expand";
export * from "./gain";
export * from "./meter";
export * from "./screen";
export * from "./shoulder";
