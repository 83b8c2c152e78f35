export * from "./abilities";
export * from "./parse";
export * from "./resolve";
export * from "./schema";
export * from "./supported";
export * from "./words";
export * from "./read";
