export { CounterScreen } from "./counter-screen";
export { HandOver } from "./hand-over-menu";
