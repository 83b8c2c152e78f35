/**
 * What stands between the file and its planned picture: how the photo is taken from the file, and its ink
 * where the brief asks for that.
 */

import { createHash } from "node:crypto";
import { DEFAULT_RAW, rawTakingOf, sameSettings } from "@/core/photo";
import type { Wish } from "../foreign";
import { readPage, type Source } from "../source";
import { inkStaged } from "./ink";
import type { Staged, StageRequest } from "./staged";

/**
 * The source that everything after it works from. Throws a PhotoError where the brief asks for ink and
 * nothing looks like it.
 */
export async function staged(request: StageRequest): Promise<Staged> {
  const taken = { ...request, ...(await fromFile(request)) };
  return request.brief.ink
    ? inkStaged(taken)
    : { source: taken.source, frame: taken.frame, sha256: taken.sha256, ink: null };
}

/** The photo as a person has chosen to take it from its file. */
async function fromFile({
  source,
  frame,
  sha256,
}: StageRequest): Promise<{ source: Source; sha256?: string }> {
  const own = (of: object) =>
    sha256 === undefined
      ? undefined
      : createHash("sha256")
          .update(sha256 + JSON.stringify(of))
          .digest("hex");
  if (source.foreign === "raw") {
    const raw = rawTakingOf(frame);
    return {
      source: { ...source, wish: { raw } },
      sha256: sameSettings(raw, DEFAULT_RAW) ? sha256 : own({ raw }),
    };
  }
  if (source.foreign === "ora" && frame.layers) {
    const wish: Wish = { layers: frame.layers };
    return { source: { ...source, wish }, sha256: own(wish) };
  }
  const page = frame.page ?? 1;
  if (source.facts.format === "tiff" && source.facts.pages > 1 && page > 1)
    return { source: await readPage(source, page), sha256: own({ page }) };
  return { source, sha256 };
}
