export { WeighScreen } from "./weigh-screen";
