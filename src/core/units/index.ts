export * from "./bytes";
export * from "./error";
export * from "./length";
export * from "./pixels";
export * from "./range";
export * from "./resolution";
