import type { ResolvedBrief } from "@/core/brief";
import { type Geometry, planGeometry, proposeFrame } from "@/core/geometry";
import type { Frame } from "@/core/photo";
import type { Source } from "../source";
import { lookForDetail } from "./look";

/**
 * Where the frame lies: by the photo's detail where nobody has set it. Throws a GeometryError where the
 * photo cannot take the pixels.
 */
export async function framed(
  resolved: ResolvedBrief,
  source: Source,
  asked: Frame,
): Promise<{ geometry: Geometry; frame: Frame }> {
  const geometry = planGeometry(resolved, source.facts, asked);
  if (!asked.auto || geometry.mode !== "fill" || geometry.cut <= 0) return { geometry, frame: asked };
  const frame = proposeFrame(resolved, source.facts, asked, await lookForDetail(source));
  return { geometry: planGeometry(resolved, source.facts, frame), frame };
}
