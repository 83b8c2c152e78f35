/** What a run is made of: the files that each photo becomes, and what they will be called. */
import { type Brief, resolveBrief } from "@/core/brief";
import type { Choice } from "@/core/coding";
import { planGeometry } from "@/core/geometry";
import { AUTO, GeometryError } from "@/core/photo";
import { writtenKind } from "@/core/plan";
import { planNames, type WrittenKind } from "@/core/plan/names";
import { partBrief, planSet, type SetPart } from "@/core/plan/set";
import { factsOfPage } from "@/core/proof";
import type { ShareTarget } from "../rows";
import type { listRows } from "./batch-rows";

type Row = Awaited<ReturnType<typeof listRows>>[number];

/** What a run is made of: an assignment, and the folder that its file goes into. */
export interface ToMake {
  row: Row;
  assignmentId: string;
  choice?: Choice;
  share?: ShareTarget;
  /** Of one setting among several that are compared. */
  folder?: string;
  /** Which file of a set. */
  part?: PartToMake;
}

/** A file of a set, with the height that it will have. */
interface PartToMake extends SetPart {
  index: number;
  height: number;
}

/** The files that a photo becomes: one, or those of a set; one that says why where a set cannot be planned. */
export function partsOf(row: Row, brief: Brief): (PartToMake | undefined)[] {
  if (!brief.set) return [undefined];
  if (row.measured?.set)
    return row.measured.set.map(({ part, facts }, index) => ({ ...part, index, height: facts.height }));
  const frame = row.frame ?? AUTO;
  const photo = factsOfPage(row.facts, frame.page);
  try {
    return planSet(brief, photo, frame).parts.map((part, index) => ({
      ...part,
      index,
      height: planGeometry(resolveBrief(partBrief(brief, part)), photo, frame).height,
    }));
  } catch (error) {
    if (error instanceof GeometryError) return [undefined];
    throw error;
  }
}

/** Photos are counted in their order, each once, whatever is made of it. */
export const numbersOf = (toMake: readonly ToMake[]) =>
  new Map([...new Set(toMake.map(({ row }) => row.id))].map((id, i) => [id, i + 1]));

export function plannedNames(toMake: readonly ToMake[], bodies: ReadonlyMap<string, Brief>) {
  const numbers = numbersOf(toMake);
  return planNames(
    toMake.map(({ row, assignmentId, folder, part }) => {
      const brief = bodies.get(row.revisionId!)!;
      const resolved = resolveBrief(brief);
      const { geometry, format } = row.measured ?? { geometry: null, format: null };
      return {
        id: assignmentId,
        pattern: resolved.names,
        folder: [folder, row.folder].filter(Boolean).join("/"),
        source: row.name,
        n: numbers.get(row.id)!,
        width: part?.width ?? geometry?.width ?? 0,
        height: part?.height ?? geometry?.height ?? 0,
        date: row.facts.date,
        brief: brief.name,
        format: part?.format ?? (format as WrittenKind | null) ?? writtenKind(resolved, row.facts),
      };
    }),
  );
}
