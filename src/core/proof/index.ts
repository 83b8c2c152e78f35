export * from "./checks";
export * from "./facts";
export * from "./pixels";
