export * from "./geometry";
export * from "./orientation";
