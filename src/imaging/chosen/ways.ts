/** Which strategy serves a photo: decided here, once, at the beginning. */
import { keepsFrames, keepsLayers } from "@/core/plan";
import type { Candidates } from "../candidates";
import { type PlannedPhoto, planPhoto, resolvedFor } from "../planned";
import type { Chosen, FitRequest } from "./asked";
import { planDrawn } from "./drawn";
import { lighter, planLayered } from "./layered";
import { leastTouched } from "./least-touched";
import { movingFile } from "./moving";
import { asShared } from "./shared";

export interface Way {
  /** Null where this way does not serve the photo after all. */
  plan: () => Promise<PlannedPhoto | null>;
  /** Null where another way has to be gone. */
  choose: (candidates: Candidates) => Promise<Chosen | null>;
}

/** In the order in which they are tried; the last one always answers. */
export function waysFor(request: FitRequest): Way[] {
  const { choice, share, signal, softCeiling } = request;
  const asked = { ...request, aim: choice && "aim" in choice ? choice.aim : undefined };
  if (keepsLayers(resolvedFor(asked), request.source.facts))
    return [{ plan: () => planLayered(asked), choose: (candidates) => lighter(candidates, signal) }];
  if (keepsFrames(resolvedFor(asked), request.source.facts))
    return [{ plan: () => planPhoto(asked), choose: (candidates) => movingFile(candidates, signal) }];
  const drawn: Way = {
    plan: () => planDrawn(request),
    choose: async (candidates) => {
      const chosen = await leastTouched(candidates, { signal });
      return chosen.kind === "own" ? chosen : null;
    },
  };
  const usual: Way = {
    plan: () => planPhoto(asked),
    choose: (candidates) =>
      share ? asShared(candidates, share) : leastTouched(candidates, { choice, signal, softCeiling }),
  };
  return [drawn, usual];
}
