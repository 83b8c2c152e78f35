export { putAs, putInto, writeNewFile } from "./write";
export { type Written, writeFile } from "./write-file";
