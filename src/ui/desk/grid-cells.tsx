"use client";

/** The columns of the grid, one a clause, and what stands in them: now, what it will be, and the gauge. */
import { type Brief, type ClauseKey, formatName, type ResolvedBrief } from "@/core/brief";
import { kindOfName, nameNoteWords } from "@/core/plan/names";
import { pixelGauge } from "@/core/proof/gauge";
import { formatBytes, formatPpi, formatSize, trimNumber } from "@/core/units";
import type { RowView } from "../api";
import { Gauge, rowState, STATE_INK, STATE_WORDS, StateMark, toneOf } from "../parts";

export interface Column {
  key: string;
  title: string;
  width: string;
  cell: (row: RowView, brief: ResolvedBrief | null) => React.ReactNode;
}

/** A column a clause: those that any brief of the batch states. */
export function columnsOf(briefs: readonly Brief[]): Column[] {
  const stated = (...keys: ClauseKey[]) =>
    briefs.some((brief) => keys.some((key) => brief[key] !== undefined));
  const columns: Column[] = [
    { key: "photo", title: "Photo", width: "minmax(90px,1fr)", cell: (row) => <PhotoCell row={row} /> },
  ];
  if (stated("format", "set"))
    columns.push({
      key: "format",
      title: "Format",
      width: stated("set") ? "70px" : "44px",
      cell: (row) => <FormatCell row={row} />,
    });
  columns.push({
    key: "pixels",
    title: "Pixels",
    width: "minmax(92px,158px)",
    cell: (row, brief) => <PixelCell row={row} brief={brief} />,
  });
  columns.push({
    key: "size",
    title: "File size",
    width: "minmax(86px,114px)",
    cell: (row, brief) => <SizeCell row={row} brief={brief} />,
  });
  if (stated("paper"))
    columns.push({
      key: "paper",
      title: "Paper",
      width: "84px",
      cell: (row, brief) => <PaperCell row={row} brief={brief} />,
    });
  else if (stated("resolution"))
    columns.push({
      key: "resolution",
      title: "Resolution",
      width: "74px",
      cell: (row) => <ResolutionCell row={row} />,
    });
  if (stated("quality"))
    columns.push({
      key: "quality",
      title: "Quality",
      width: "50px",
      cell: (row, brief) => <QualityCell row={row} brief={brief} />,
    });
  columns.push({
    key: "verdict",
    title: "Verdict",
    width: "minmax(84px,110px)",
    cell: (row) => <VerdictCell row={row} />,
  });
  return columns;
}

function PhotoCell({ row }: { row: RowView }) {
  const second =
    row.made?.state === "done"
      ? `made: ${row.made.name}`
      : row.nameNotes.some((note) => note.kind !== "pattern")
        ? nameNoteWords(row.nameNotes.find((note) => note.kind !== "pattern")!)
        : row.verdict?.state === "meets" && row.verdict.reason
          ? row.verdict.reason
          : firstStep(row);
  return (
    <>
      <span
        className="block truncate font-semibold"
        title={row.folder ? `${row.folder}/${row.name}` : row.name}
      >
        {row.name}
      </span>
      <span className="block truncate text-small text-second" title={second}>
        {second}
      </span>
    </>
  );
}

const firstStep = (row: RowView): string =>
  row.steps[0] ? row.steps[0].do[0].toLowerCase() + row.steps[0].do.slice(1) : "";

/** Kinds whose names are too long for their column. */
const SHORT: Record<string, string> = { raw: "raw", ora: "ORA" };

function FormatCell({ row }: { row: RowView }) {
  const formats = [...new Set(row.set?.map(({ format }) => format))].reverse();
  if (formats.length > 1)
    return (
      <>
        <b className="figures block">{formatName(formats[0])}</b>
        <span className="block truncate text-small" title={formats.map(formatName).join(", ")}>
          {formats.length > 2 ? `and ${formats.length - 1} more` : `and ${formatName(formats[1])}`}
        </span>
      </>
    );
  const will = row.outputName && kindOfName(row.outputName);
  return (
    <>
      <b className="figures block">{will ? formatName(will) : "–"}</b>
      <span className="figures block truncate text-small text-second" title={formatName(row.before.format)}>
        {SHORT[row.before.format] ?? formatName(row.before.format)}
      </span>
    </>
  );
}

/** "480–1920 wide": from the narrowest to the widest. */
function widthsWords({ set }: RowView): string | null {
  if (!set?.length) return null;
  const [widest, narrowest] = [set[0].width, set[set.length - 1].width];
  return widest === narrowest ? `${widest} wide` : `${narrowest}–${widest} wide`;
}

function PixelCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const now = formatSize(row.before.width, row.before.height);
  const will =
    widthsWords(row) ?? (row.geometry ? formatSize(row.geometry.width, row.geometry.height) : null);
  const same = will === now;
  return (
    <>
      <span className="flex items-baseline justify-between gap-1">
        <b className="figures whitespace-nowrap">
          {will ?? (row.verdict?.state === "cannot" ? "cannot" : "–")}
        </b>
        <span className="figures truncate text-[10.5px] text-second max-[1150px]:hidden">
          {same ? "as it is" : now.replaceAll(" ", "")}
        </span>
      </span>
      <Gauge
        {...pixelGauge(brief, row.before, row.geometry)}
        tone={toneOf(row)}
        width={150}
        label={`now ${now}, will be ${will ?? "nothing"}`}
      />
    </>
  );
}

function SizeCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const bytes = row.made?.state === "done" ? row.made.bytes : row.bytes;
  const words = bytes === null ? "–" : formatBytes(bytes);
  return (
    <>
      <span className="flex items-baseline justify-between gap-1">
        <b className={`figures whitespace-nowrap ${row.figure === "about" ? "font-normal text-second" : ""}`}>
          {row.figure === "about" ? `about ${words}` : words}
        </b>
        {row.figure !== "about" && (
          <span className="figures text-[10.5px] whitespace-nowrap text-second max-[1150px]:hidden">
            {formatBytes(row.before.bytes)}
          </span>
        )}
      </span>
      <Gauge
        min={brief?.fileSize.min ?? null}
        max={brief?.fileSize.max ?? null}
        now={row.before.bytes}
        will={bytes}
        tone={toneOf(row)}
        width={110}
        label={
          `now ${formatBytes(row.before.bytes)}, will be ` +
          `${row.figure === "about" ? "about " : ""}${words}`
        }
      />
    </>
  );
}

function ResolutionCell({ row }: { row: RowView }) {
  return (
    <>
      <b className="figures block whitespace-nowrap">{row.ppi === null ? "–" : formatPpi(row.ppi)}</b>
      <span className="figures block truncate text-small text-second">
        {row.before.resolution ? `now ${Math.round(row.before.resolution[0])}` : "now none"}
      </span>
    </>
  );
}

/** How large it prints at the resolution that it will carry. */
function PaperCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const { geometry, ppi } = row;
  const mm = (px: number) => trimNumber((px / ppi!) * 25.4, px / ppi! < 4 ? 1 : 0);
  return (
    <>
      <b className="figures block whitespace-nowrap">
        {geometry && ppi && (brief?.paper || brief?.resolution)
          ? `${mm(geometry.width)} × ${mm(geometry.height)}`
          : "–"}
      </b>
      <span className="figures block truncate text-small text-second">
        {geometry && ppi ? `${brief?.paper || brief?.resolution ? "mm, " : ""}${Math.round(ppi)} ppi` : ""}
      </span>
    </>
  );
}

function QualityCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const found = [...(row.made?.checks ?? []), ...row.checks].find(
    (check) => check.clause === "quality",
  )?.found;
  return (
    <>
      <b className="figures block whitespace-nowrap">{brief?.quality && found ? found.split(",")[0] : "–"}</b>
      <span className="figures block truncate text-small text-second">
        {row.before.quality !== null ? `now ${row.before.quality}` : ""}
      </span>
    </>
  );
}

function VerdictCell({ row }: { row: RowView }) {
  const { state, reason, working } = rowState(row);
  if (working) return <span className="text-small text-second">{reason}</span>;
  if (!state) return null;
  return (
    <span className="flex items-center gap-1.5">
      <StateMark state={state} />
      <span className="min-w-0">
        <b className={`block ${STATE_INK[state]}`}>
          {row.made?.state === "done" ? "Met" : STATE_WORDS[state]}
        </b>
        <span className="block truncate text-tiny text-second" title={reason}>
          {reason}
        </span>
      </span>
    </span>
  );
}
