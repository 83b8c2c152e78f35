export { Foot, say, sayError } from "./say";
