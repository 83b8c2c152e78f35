export * from "./density";
export * from "./detail";
export * from "./error";
export * from "./frame";
export * from "./propose";
export * from "./geometry";
export * from "./orientation";
export * from "./target";
