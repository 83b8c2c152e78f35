export * from "./mail";
export * from "./parcels";
export * from "./print-sheet";
export * from "./sheet";
export * from "./unzip";
export * from "./whole";
export * from "./zip";
