export { isTemporary, putAs, putInto, writeNewFile } from "./write";
export { type GaveUp, type Written, writeFile } from "./write-file";
