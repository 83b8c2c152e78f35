export { compressor } from "./compress";
export { LIGHT_BANDS, LIGHT_VIEWS, type LightView, lightOnScreen, whiteTimes } from "./display";
export { type Expansion, expandLights, expansionOf } from "./expand";
export { applyGain } from "./gain";
export { GAIN_OFFSET, type Gain, gainBetween } from "./make-gain";
export { lightWords, meterLight, readoutWords } from "./meter";
export { aboveWhite } from "./shoulder";
