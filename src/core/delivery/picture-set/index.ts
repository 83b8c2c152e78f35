export { MARKUP_FILE, markupFile, pictureMarkup, type SetFile, USUAL_SIZES } from "./markup";
export { type PageSet, type PageWeight, pageWeights, secondsFor, takenAt } from "./weight";
