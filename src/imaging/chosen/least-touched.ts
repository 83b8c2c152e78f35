/**
 * The usual way: picture data that obey stay, or are packed tighter where that is all it takes; they are
 * encoded anew only where they have to be, or where it pays.
 */
import { trimNumber } from "@/core/units";
import type { Candidates } from "../candidates";
import type { Chosen, FitRequest } from "./asked";
import { byHand } from "./by-hand";
import { dataServe, inside, ownFile, ownOnPage, packed, rewritten } from "./own-data";
import { searched } from "./searched";

/** From this share of its bytes on, saved, a file that obeys is encoded anew where the aim is clean. */
const WORTH_IT = 0.05;

/** Packing leaves at least this share of a file: of one that is larger still, none is tried. */
const PACKED = 0.7;

type Asked = Pick<FitRequest, "choice" | "signal" | "softCeiling">;

export async function leastTouched(
  candidates: Candidates,
  { choice, signal, softCeiling }: Asked,
): Promise<Chosen> {
  const planned = candidates.photo;
  const page = choice ? null : ownOnPage(planned);
  if (page) return page;
  const anew = () => (choice ? byHand(candidates, choice) : searched(candidates, softCeiling));
  if ((choice && "format" in choice) || !dataServe(planned)) return anew();
  const file = rewritten(planned);
  const saving = choice !== undefined || planned.brief.fileSize?.aim === "clean";
  if (inside(planned, file.length) && !saving) return ownFile(file);
  const { max } = planned.resolved.fileSize;
  const over = file.length / (max ?? Infinity);
  const packs = saving || (over > 1 && over <= 1 / PACKED);
  const tighter = packs ? await packed(planned, file, signal) : null;
  const [lossless] = [ownFile(file), ...(tighter ? [ownFile(tighter, "packed")] : [])]
    .filter((one) => one.kind === "own" && inside(planned, one.file.length))
    .sort((a, b) => bytesOf(a) - bytesOf(b));
  if (!lossless) return anew();
  if (!saving || (choice && "packed" in choice)) return lossless;
  return worthIt(await anew(), lossless);
}

const bytesOf = (chosen: Chosen): number =>
  chosen.kind === "own" ? chosen.file.length : chosen.kind === "coded" ? chosen.fitted.bytes : Infinity;

/** Of a new encoding and the data that stay, the one that serves better. */
function worthIt(anew: Chosen, lossless: Chosen): Chosen {
  const [new_, old] = [bytesOf(anew), bytesOf(lossless)];
  if (new_ <= old * (1 - WORTH_IT)) return anew;
  const gain =
    new_ < old ? `would save only ${trimNumber((1 - new_ / old) * 100, 1)} %` : "would save nothing";
  const note = `Encoding it anew ${gain} and lose a little more of the picture, so its data stay as they are.`;
  return { ...lossless, encodes: anew.encodes, notes: [...anew.notes, note] };
}
