/**
 * Which kinds of phrases a statement can hold at all, told by single words. One look-up a word
 * spares most statements the patterns, which keeps a hundred thousand characters quick.
 */
import type { Token } from "./tokens";

export const SIGNAL = {
  wish: 1,
  loose: 2,
  permits: 4,
  refused: 8,
  enough: 16,
  phrase: 32,
  person: 64,
  shared: 128,
} as const;

const WORDS: Record<keyof typeof SIGNAL, string> = {
  wish:
    "prefer prefers preferred preferably preference recommend recommends recommended recommendation " +
    "ideal ideally possible if suggest suggests suggested desirable desired would best advise advised " +
    "advisable optimal optimally we better",
  loose:
    "example e such for previously formerly used last was were had instead rather unless except " +
    "other about around approximately approx roughly nearly circa ca some average usually typically " +
    "typical often normally once double twice guess think heard outdated old earlier until unlike ~ " +
    "≈ an",
  permits: "needn't need don't doesn't not no free welcome",
  refused:
    "reject rejects rejected refuse refuses refused return returned bounce bounces bounced turned " +
    "discard discarded delete deleted fail fails decline declined sent disqualified unacceptable not " +
    "cannot can't never won't",
  enough: "plenty enough sufficient fine will would too suffices suffice",
  phrase:
    "rgb srgb s display p3 rec bt 2020 cmyk grey gray greyscale grayscale black monochrome white " +
    "profile hdr background border borders outline keyline flattened flatten flat layers layer " +
    "layered metadata meta exif gps location place position name names filename filenames rename " +
    "renaming enlarge enlarged enlarging enlargement enlargements upscale upscaled upscaling blow " +
    "blown interpolate interpolated interpolation upsample upsampled upsampling scale scaled scaling " +
    "stretch made make larger crop cropped cropping uncropped untrimmed trim trimmed cut pad padded " +
    "padding fill filled whichever small light near close half square a0 a1 a2 letter legal a3 a4 a5 a6 bit bits ink pen " +
    "animated animation animations moving frames biro marker fineliner ballpoint blue viewed judged inspected examined assessed looked checked",
  person:
    "hat hats cap caps headgear head headwear glasses spectacles sunglasses expression smile smiling " +
    "grin mouth eyes eye eyebrows face faces shoulders chin ears forehead hair fringe shadow shadows " +
    "recent recently person yourself own handwritten hand uniform uniforms lit lighting evenly " +
    "daylight flash focus blur blurred blurry sharp unsharp retouched retouching retouch filter " +
    "filters edited unedited watermark watermarks selfie selfies pose posed permission copyright " +
    "photograph stamp seal legible readable red creased crease creases folded stapled jewellery " +
    "scarf scarves make taken old plain wall background backdrop light neutral off look looking " +
    "facing lens nobody persons people dated witness witnessed signed signature printed capitals " +
    "capital initials scan photocopy copy screenshot photocopies screenshots composite collage " +
    "collages colour",
  shared: "no none both all every everything two either each",
};

const MASKS = new Map<string, number>();
for (const [name, list] of Object.entries(WORDS)) {
  for (const word of list.split(" "))
    MASKS.set(word, (MASKS.get(word) ?? 0) | SIGNAL[name as keyof typeof SIGNAL]);
}

export function signalsOf(...runs: (readonly Token[])[]): number {
  let mask = 0;
  for (const tokens of runs) for (const token of tokens) mask |= MASKS.get(token.text) ?? 0;
  return mask;
}
