/**
 * Made-up photos through the usual ways. A process that has just begun compiles its loops while it works on the first
 * photos, which then take half as long again; so it practises while nobody waits.
 */
import { parseBrief } from "@/core/brief";
import { AUTO } from "@/core/photo";
import { fitPhoto } from "./fit";
import { prove } from "./proved";
import { readSource } from "./source";
import { jpegAside } from "./workers";

const SIDES = { width: 2048, height: 1536 };
const BRIEFS = [{ quality: { min: 80, max: 80 } }, { fileSize: { max: "200KB" } }, {}];
/** So often, the loops have reached their last compiler. */
const ROUNDS = 4;

/** Ends early as soon as `wanted` says that there is real work. */
export async function rehearse(wanted: () => boolean): Promise<void> {
  const photo = Buffer.from(
    await jpegAside(madeUp(), { format: "jpeg", quality: 92, chroma: "4:2:0", table: 9, effort: "quick" }),
  );
  for (let round = 0; round < ROUNDS; round += 1) {
    for (const clause of BRIEFS) {
      if (wanted()) return;
      const brief = parseBrief({
        zumbrelBrief: 1,
        name: "rehearsal",
        format: ["jpeg"],
        longSide: { exact: 1200 },
        ...clause,
      });
      const source = await readSource(photo);
      const { output, judge, frame } = await fitPhoto({ source, brief, frame: AUTO, judging: "sample" });
      if (output)
        await prove(brief, Buffer.from(output), { before: source.facts, frame, original: photo, judge });
    }
  }
}

/** Slopes, edges and grain: each loop finds something to do. */
function madeUp() {
  const { width, height } = SIDES;
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y += 1) fillRow(data, y, width);
  return { data, width, height, channels: 3 };
}

function fillRow(data: Uint8Array, y: number, width: number): void {
  for (let x = 0; x < width; x += 1) {
    const grain = Math.imul(x * 7919 + y * 104_729, 2_654_435_761) >>> 27;
    const at = (y * width + x) * 3;
    data[at] = 90 + ((x * 96) >> 11) + grain;
    data[at + 1] = 60 + ((y * 120) >> 11) + grain;
    data[at + 2] = (x >> 6) % 3 === 0 ? 40 + grain : 150 + grain;
  }
}
