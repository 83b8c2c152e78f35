/** A file whose ink or border is as asked already, and everything else too: it stays. */
import type { Brief } from "@/core/brief";
import { targetFor } from "@/core/geometry";
import { AUTO, cutsByHand } from "@/core/photo";
import { checkPixels } from "@/core/proof";
import { asItIs, type PlannedPhoto, planPhoto, resolvedFor } from "../planned";
import type { FitRequest } from "./asked";
import { dataServe } from "./own-data";

/** Clauses that change the pixels of any photo, unless it has been through them already. */
const DRAWN = ["ink", "border"] as const;

/** The plan without those clauses; null where the file does not show yet what they ask. */
export async function planDrawn(request: FitRequest): Promise<PlannedPhoto | null> {
  const { source, brief, choice, share, frame = AUTO } = request;
  if (choice || share || !DRAWN.some((clause) => brief[clause] !== undefined)) return null;
  const bare: Brief = { ...brief, ink: undefined, border: undefined, frame: brief.frame };
  const { facts } = source;
  const { width, height } = targetFor(resolvedFor({ brief: bare }), facts);
  const fits =
    facts.width >= width.min &&
    facts.width <= width.max &&
    facts.height >= height.min &&
    facts.height <= height.max;
  if (!fits || cutsByHand(frame) || frame.turn) return null;
  const planned = await planPhoto({ ...request, brief: bare });
  if (!dataServe(planned)) return null;
  const shown = checkPixels(brief, await asItIs(source));
  return shown.some((check) => check.ok === false) ? null : planned;
}
