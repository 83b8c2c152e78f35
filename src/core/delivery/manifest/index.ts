export { type ManifestRow, manifestCsv, manifestJson } from "./manifest";
