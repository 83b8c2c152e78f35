export * from "./abilities";
export * from "./parse";
export * from "./read";
export * from "./resolve";
export * from "./schema";
export * from "./supported";
export * from "./words";
