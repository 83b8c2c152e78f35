export * from "./density";
export * from "./geometry";
export * from "./orientation";
export * from "./target";
