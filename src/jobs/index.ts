export { plannedPictures } from "./planned";
export { freeBytes } from "./space";
