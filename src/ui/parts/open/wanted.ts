import { useEffect, useState } from "react";
import { type Late, useLate } from "../late";

/**
 * A part from the moment at which it is first wanted, null until then and until it is loaded; it stays from then
 * on. `lost`: it could not be loaded.
 */
export function useWanted<T>(part: Late<T>, wanted: boolean, lost: () => void): T | null {
  useLate(part);
  const [found, setFound] = useState<{ part: T } | null>(null);
  const missing = wanted && found === null;
  useEffect(() => {
    if (missing) part.load().then((loaded) => setFound({ part: loaded }), lost);
  }, [missing]);
  return found?.part ?? null;
}
