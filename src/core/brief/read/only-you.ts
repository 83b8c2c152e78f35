/** Rules that no program should claim to check: how the picture came to be, and what a person sees in it. */

import { words } from "./line";
import type { Token } from "./tokens";

const PHRASES =
  /\b(hat|hats|cap|caps|headgear|head covering|headwear|glasses|spectacles|sunglasses|expression|smile|smiling|grin|mouth|eyes|eye|eyebrows|face|faces|head|shoulders|chin|ears|forehead|hair|fringe|shadow|shadows|recent|recently|in person|yourself|by (your|the applicant's) own hand|own hand|handwritten|hand written|uniform|uniforms|lit|lighting|evenly lit|daylight|flash|in focus|out of focus|blur|blurred|blurry|sharp|unsharp|retouched|retouching|retouch|filter|filters|edited|unedited|watermark|watermarks|selfie|selfies|pose|posed|permission|copyright|your own work|own photograph|stamp|seal|legible|readable|red eye|red eyes|creased|crease|creases|folded|stapled|jewellery|scarf|scarves|make up|taken (within|in|during|no|not|less|by)|(weeks|months|years) old|plain (wall|background|white wall|light background|backdrop)|(wall|background|backdrop) (is |must be |should be |has to be |shall be |behind )?(plain|light|uniform|neutral|even|bare)|light(-| - )coloured|neutral background|light background|off white background|wall behind|look straight|looking straight|facing|face forward|camera lens|nobody else|no other (people|person|persons)|one person|dated|witness|witnessed|signed by you|your usual signature|printed name|capitals|capital letters|initials|not be (a )?(scan|photocopy|copy|screenshot)|photocopies|screenshots|composite|collage|collages|in colour|colour photograph|colour photo|colour picture)\b/;
/** Of what people are told to do at a counter, none is about the file. */
const RULES_FILE = /\b(px|pixel|pixels|kb|mb|dpi|ppi|jpeg|png)\b/;

/** Whether a part of a sentence is a rule for a person. */
export function forAPerson(part: readonly Token[]): boolean {
  const text = words(part);
  return PHRASES.test(text) && !RULES_FILE.test(text);
}
