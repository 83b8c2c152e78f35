export { type DocumentRefusal, readRefusal, readRefusals, type Said } from "./read-refusal";
