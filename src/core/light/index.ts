export * from "./compress";
export * from "./expand";
export * from "./meter";
export * from "./shoulder";
export * from "./screen";
export * from "./gain";
