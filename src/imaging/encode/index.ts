export { encode } from "./encode";
export { encodeAside } from "./encode-aside";
