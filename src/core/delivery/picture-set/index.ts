export { type MarkupOptions, pictureMarkup, type SetFile, USUAL_SIZES } from "./markup";
export {
  DENSITIES,
  type PageSet,
  type PageWeight,
  pageWeights,
  SCREENS,
  secondsFor,
  takenAt,
} from "./weight";
