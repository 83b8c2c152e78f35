export * from "./clauses";
export * from "./model";
