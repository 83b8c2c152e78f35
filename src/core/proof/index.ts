export * from "./checks";
export * from "./facts";
