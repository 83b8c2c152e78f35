/** Every pixel of a file, as its code values are: to see that it decodes, and what it shows. */
import { resolveBrief } from "@/core/brief";
import { planGeometry } from "@/core/geometry";
import { CENTRED } from "@/core/photo";
import { destinationOf } from "../headers";
import type { Source } from "../source";
import { preparePicture } from "./prepare";
import type { Prepared } from "./prepared";

const NOTHING_ASKED = resolveBrief({ zumbrelBrief: 1, name: "as it is" });

/** With the light above white, where the file signals such. Throws a PhotoError where it is damaged. */
export function asItIs(source: Source): Promise<Prepared> {
  const light = source.facts.light === undefined ? "sdr" : "hdr";
  return preparePicture(source, {
    geometry: planGeometry(NOTHING_ASKED, source.facts),
    frame: CENTRED,
    to: destinationOf({ ...NOTHING_ASKED, space: "keep", light }, source),
    bits: (source.facts.bits ?? 8) > 8 ? 16 : 8,
    background: "#ffffff",
    opaque: false,
    sharpen: null,
    ppi: null,
  });
}
