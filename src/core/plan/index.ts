export * from "./pass";
export * from "./steps";
export * from "./verdict";
