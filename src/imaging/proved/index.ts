export { type Made, type Proof, prove } from "./prove";
