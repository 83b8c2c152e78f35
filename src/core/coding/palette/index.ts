export { type Indexed, indexed } from "./map";
