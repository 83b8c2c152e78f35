import { trimNumber } from "@/core/units";

/** "1.26"; a sample's figure is good for two digits: "about 1.3". */
export function differenceWords(difference: number, about: boolean): string {
  if (!about) return trimNumber(difference, 2);
  return `about ${trimNumber(difference, difference < 0.995 ? 2 : 1)}`;
}
