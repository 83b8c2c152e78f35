export * from "./bytes";
export * from "./error";
export * from "./length";
export * from "./pixels";
export * from "./resolution";
export * from "./range";
