// The inner loops of the JPEG coder: colour, transform, quantisation, entropy coding. AssemblyScript: TypeScript
// that is compiled to WebAssembly, with addresses in bytes; `v128` holds four floats. Compiled by scripts/wasm.mjs.

export { between, compensate, halve, ycc8 } from "./jpeg/colour";
export { blend, drawOut, inverse, rgb8 } from "./jpeg/decode";
export {
  besides,
  codeBand,
  codeMcus,
  count,
  ended,
  finish,
  refineBand,
  writeTo,
} from "./jpeg/entropy";
export { activity, energy, meanActive, plain, thrifty } from "./jpeg/quantise";
export { forward } from "./jpeg/transform";
