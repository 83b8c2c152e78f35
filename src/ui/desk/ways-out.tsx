"use client";

/** What a ceiling forced, as the picture is looked at, and the ways out of it. */
import { type Brief, resolveBrief } from "@/core/brief";
import { viewWords } from "@/core/coding";
import { CLEAN, PLAIN } from "@/core/difference";
import { pixelsOf } from "@/core/geometry";
import { formatBytes, formatSize } from "@/core/units";
import type { RowView } from "../api";
import { useBriefEdit } from "../api";
import { Button, differenceWords } from "../parts";

interface Props {
  batchId: string;
  row: RowView;
  brief: Brief;
}

/** Visible difference in words, and what was given up to keep it small. */
export function Harm({ batchId, row, brief }: Props) {
  const { difference, differenceAbout, gaveUp, geometry } = row;
  const seen = gaveUp && geometry && pixelsOf(geometry) <= pixelsOf(gaveUp.view) ? viewOf(brief) : "at 100 %";
  return (
    <>
      {difference !== null && difference > 0 && (
        <p className="mt-1 text-small">
          Visible difference <b className="figures">{differenceWords(difference, differenceAbout)}</b>
          <span className="text-second">{harmWords(difference, seen)}</span>
        </p>
      )}
      {gaveUp && geometry && (
        <p className="mt-1 text-small">
          <b className="figures">
            {formatSize(geometry.width, geometry.height)} of {formatSize(gaveUp.all.width, gaveUp.all.height)}{" "}
            px
          </b>
          <span className="text-second"> are kept, {gaveUp.why}.</span>
        </p>
      )}
      {(gaveUp || row.cleanFrom !== null) && <Ways batchId={batchId} row={row} brief={brief} />}
    </>
  );
}

const viewOf = (brief: Brief): string => viewWords(resolveBrief(brief).view);

function harmWords(difference: number, seen: string): string {
  if (difference <= CLEAN) return `: no visible loss ${seen}`;
  return difference <= PLAIN ? `: a careful eye sees it ${seen}` : `: plain to see ${seen}`;
}

interface Way {
  label: string;
  words: string;
  change: (brief: Brief) => Brief;
}

function Ways({ batchId, row, brief }: Props) {
  const edit = useBriefEdit(batchId);
  return (
    <div className="mt-1.5 mb-2.5 flex flex-wrap gap-1.5">
      {waysFor(row, brief).map(({ label, words, change }) => (
        <Button
          key={label}
          disabled={edit.isPending}
          onClick={() => edit.mutate({ change, words, row: row.id })}
        >
          {label}
        </Button>
      ))}
    </div>
  );
}

/** Clauses beside which "all pixels" would mean something else. */
const PIXELS = ["width", "height", "longSide", "shortSide", "box", "sizes", "shape", "resolution"] as const;

function waysFor({ cleanFrom, gaveUp }: RowView, brief: Brief): Way[] {
  const ways: Way[] = [];
  if (cleanFrom !== null && brief.fileSize?.max !== undefined) {
    const max = Math.ceil(cleanFrom / 1000);
    const size = formatBytes(max * 1000);
    ways.push({
      label: `Raise the ceiling to ${gaveUp ? `about ${size}` : `${max} kB`}`,
      words: `raising the ceiling to ${size}`,
      change: (now) => ({ ...now, fileSize: { ...now.fileSize, max: `${max}kB` } }),
    });
  }
  if (!gaveUp) return ways;
  if (PIXELS.every((key) => brief[key] === undefined))
    ways.push({
      label: "Keep all pixels",
      words: "keeping all pixels",
      change: (now) => ({ ...now, scale: "100%" }),
    });
  if (resolveBrief(brief).view.kind !== "pixels")
    ways.push({
      label: "Judge it at 100 %",
      words: "judging it at 100 %",
      change: (now) => ({ ...now, view: "pixels" }),
    });
  return ways;
}
