export { type Announce, isTemporary, putAs, putInto, writeFree, writeIn } from "./write";
export { type GaveUp, type Written, writeFile } from "./write-file";
