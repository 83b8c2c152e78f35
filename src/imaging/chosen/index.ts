export type { FitAnswer, FitRequest, Shared } from "./asked";
export { fitLayered } from "./layered";
