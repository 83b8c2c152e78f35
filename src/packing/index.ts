export * from "./mail";
export * from "./zip";
export * from "./parcels";
export * from "./unzip";
export * from "./sheet";
export * from "./whole";
export * from "./print-sheet";
