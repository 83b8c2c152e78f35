export type {
  Chosen,
  Coded,
  FitRequest,
  Judging,
  LighterFile,
  OwnData,
  Shared,
} from "./asked";
export { waysFor } from "./ways";
