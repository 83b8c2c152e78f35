export * from "./size";
export * from "./split";
