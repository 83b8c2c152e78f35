export type {
  Chosen,
  Coded,
  FitRequest,
  LighterFile,
  OwnData,
  Shared,
} from "./asked";
export { waysFor } from "./ways";
