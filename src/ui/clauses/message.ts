import { UnitError } from "@/core/units";

/** What went wrong, as one sentence. */
export function messageOf(error: unknown): string {
  if (error instanceof UnitError) return `Wanted ${error.wanted}, found ${error.found}.`;
  return error instanceof Error ? error.message : String(error);
}
