export { loadDemo } from "./demo";
