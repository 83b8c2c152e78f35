export * from "./name";
export * from "./plan";
