export { heldAgainst, otherwise } from "./held-against";
