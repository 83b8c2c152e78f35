export * from "./lay-out";
export * from "./lines";
export * from "./sizes";
export * from "./task";
