export { encode, ownCoder } from "./encode";
export { encodeAside } from "./encode-aside";
export { encodeMoving } from "./encode-moving";
