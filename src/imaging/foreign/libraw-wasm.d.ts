declare module "libraw-wasm/dist/libraw.js" {
  const create: (options: {
    wasmBinary: Uint8Array;
    print: (text: string) => void;
    printErr: (text: string) => void;
  }) => Promise<{ LibRaw: new () => unknown }>;
  export default create;
}
