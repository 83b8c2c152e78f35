export * from "./kernels";
export * from "./resample";
export * from "./rotate";
export * from "./sharpen";
export * from "./weights";
