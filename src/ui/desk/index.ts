export { Desk } from "./desk";
