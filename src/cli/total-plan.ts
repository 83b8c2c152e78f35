import type { Limit } from "@/core/budget";
import type { TrialStore } from "@/imaging/candidates";
import type { Shared } from "@/imaging/chosen";
import type { PixelCache } from "@/imaging/planned";

/** What the sharing has settled for the files that are written next. */
export interface TotalPlan {
  limit: Limit | null;
  /** By position; none where the file is made as if it were alone. */
  shares: Map<number, Shared>;
  trials: Map<number, TrialStore>;
  planned: PixelCache | null;
  /** Why no file can be made; null where they can. */
  error: string | null;
  close: () => Promise<void>;
}

export const ALONE: TotalPlan = {
  limit: null,
  shares: new Map(),
  trials: new Map(),
  planned: null,
  error: null,
  close: async () => undefined,
};
