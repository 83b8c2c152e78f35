export { compressor } from "./compress";
export { type Expansion, expandLights, expansionOf } from "./expand";
export { applyGain } from "./gain";
export { lightWords, meterLight, readoutWords } from "./meter";
export { LIGHT_BANDS, LIGHT_VIEWS, type LightView, lightOnScreen, whiteTimes } from "./screen";
export { aboveWhite } from "./shoulder";
