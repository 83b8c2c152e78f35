"use client";

/** The selected photo in its output frame, its plan, and after a run its proof. */
import { Download } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { resolveBrief } from "@/core/brief";
import { keepsFrames, MARK_HEAD } from "@/core/plan";
import { formatSize } from "@/core/units";
import type { BatchView, DeskView, MadeView, RowView } from "../api";
import { call, useChange } from "../api";
import { Button, ProofLines, rowState, TickList, useKeys } from "../parts";
import { PartPicture } from "../picture";
import { Checklist } from "./checklist";
import { FrameMap } from "./frame-map";
import { InkPanel } from "./ink-panel";
import { RowBrief } from "./row-brief";
import { SetPanel } from "./set-panel";
import { TakingPanel } from "./taking-panel";
import { Harm } from "./ways-out";

interface Props {
  batch: BatchView;
  row: RowView;
  briefs: DeskView["briefs"];
  /** The chosen row and those marked with it. */
  chosen: string[];
}

const VIEW = { width: 224, height: 196 };

export function PhotoPane({ batch, row, briefs, chosen }: Props) {
  const [listed, setListed] = useState(false);
  const [marked, setMarked] = useState(false);
  const brief = batch.briefs.find((b) => b.revisionId === row.revisionId)?.body ?? null;
  const leaveOut = useChange(() =>
    call("POST", `batches/${batch.id}/remove`, {
      ids: chosen,
      words: (chosen.length > 1 ? `leaving out ${chosen.length} photos` : `leaving out ${row.name}`).slice(
        0,
        300,
      ),
    }),
  );
  const again = useChange(() => call("POST", `assignments/${row.assignmentId}/again`, {}));
  const accept = useChange(() =>
    call("PUT", `batches/${batch.id}/frame`, {
      rowId: row.id,
      frame: row.frame,
      accepted: true,
      seen: row.frame,
    }),
  );
  const { state, reason } = rowState(row);
  const router = useRouter();
  const framed = brief !== null;
  // Files of a set and animations are chosen by what they are, not one by one.
  const weighs = brief !== null && !row.set && !keepsFrames(resolveBrief(brief), row.before);
  useKeys(({ key }) => {
    if (!framed || (key !== "f" && (key !== "e" || !weighs))) return false;
    router.push(`/${key === "f" ? "frame" : "weigh"}?batch=${batch.id}&row=${row.id}`);
    return true;
  });
  return (
    <aside aria-label="Selected photo" className="flex min-h-0 flex-col border-l border-rule">
      <Picture row={row} batchId={batch.id} ink={marked && brief?.ink !== undefined} weighs={weighs} />
      <RowBrief batch={batch} row={row} briefs={briefs} chosen={chosen} />
      <div
        tabIndex={0}
        role="region"
        aria-label="What will be done, and why"
        className="min-h-0 flex-1 overflow-y-auto px-4 py-3 outline-offset-[-2px]"
      >
        {state === "cannot" && (
          <div role="alert" className="mb-3 border-l-[3px] border-not bg-not-wash px-3 py-1.5">
            <p>{reason}</p>
            {row.passing && row.assignmentId && (
              <Button className="mt-1.5" disabled={again.isPending} onClick={() => again.mutate(undefined)}>
                Try it again
              </Button>
            )}
          </div>
        )}
        {state === "needs" && (
          <div className="mb-3 border-l-[3px] border-needs bg-needs-wash px-3 py-1.5">
            <p>{sentenceFor(row)}</p>
            {reason === MARK_HEAD ? (
              <ScreenLink screen="frame" name="Mark them" keyHint="F" batchId={batch.id} rowId={row.id} />
            ) : (
              <Button className="mt-1.5" onClick={() => accept.mutate(undefined)}>
                It is right so
              </Button>
            )}
          </div>
        )}
        {listed && brief && <Checklist brief={brief} row={row} />}
        {row.set && <SetPanel key={row.id} batchId={batch.id} row={row} />}
        {!listed && row.made?.state === "done" && <ProofList made={row.made} first={row.set !== null} />}
        {brief?.ink && row.assignmentId && (
          <InkPanel batchId={batch.id} row={row} marked={marked} onMark={setMarked} />
        )}
        {brief && row.assignmentId && (
          <TakingPanel
            batchId={batch.id}
            row={row}
            bright={brief.colour?.light === "hdr"}
            alike={batch.rows.filter((one) => one.revisionId === row.revisionId).length}
          />
        )}
        {!listed && row.steps.length > 0 && (
          <section aria-label="Plan">
            <h3 className="text-small font-semibold text-second [overflow-wrap:anywhere]">
              Plan for {row.set ? `the widest file of ${row.name}` : row.name}
            </h3>
            {brief && <Harm batchId={batch.id} row={row} brief={brief} />}
            <ol className="mt-1.5 list-decimal space-y-1.5 pl-5">
              {row.steps.map((step) => (
                <li key={step.do}>
                  {step.do}
                  {step.why && <span className="block text-small text-second">{step.why}</span>}
                </li>
              ))}
            </ol>
            {row.notes.map((note) => (
              <p key={note} className="mt-2 text-small text-needs">
                {note}
              </p>
            ))}
          </section>
        )}
      </div>
      <div className="flex gap-2 border-t border-thin px-4 py-2">
        <Button keyHint="Del" onClick={() => leaveOut.mutate(undefined)}>
          Leave out{chosen.length > 1 ? ` ${chosen.length}` : ""}
        </Button>
        {brief && (
          <Button className="ml-auto" aria-pressed={listed} onClick={() => setListed(!listed)}>
            {listed ? "Plan" : "Checklist"}
          </Button>
        )}
      </div>
    </aside>
  );
}

function sentenceFor(row: RowView): string {
  if (row.verdict?.reason === MARK_HEAD)
    return "The brief asks how large the head is. Mark crown and chin on Frame; nothing finds them by itself.";
  if (row.verdict?.reason === "check the frame") {
    return (
      `${Math.round((row.geometry?.cut ?? 0) * 100)} % of the photo is cut away by itself. Is the part ` +
      "that matters inside? Move the frame above, or say that it is right."
    );
  }
  return `${row.verdict?.reason ?? ""}. Look at the result above.`;
}

function Picture({
  row,
  batchId,
  ink,
  weighs,
}: {
  row: RowView;
  batchId: string;
  ink: boolean;
  weighs: boolean;
}) {
  const size = row.geometry ?? row.before;
  const measured = row.figure === "measured" && row.assignmentId;
  const scale = Math.min(1, VIEW.width / size.width, VIEW.height / size.height);
  const [width, height] = [size.width * scale, size.height * scale];
  const shown = Math.round(scale * 100);
  return (
    <figure className="shrink-0 bg-ground">
      <div className="grid place-items-center pt-4 pb-2" style={{ height: VIEW.height + 24 }}>
        {ink && row.assignmentId ? (
          <img
            src={`/api/assignments/${row.assignmentId}/ink`}
            alt={`${row.name} with what is taken as ink marked`}
            className="max-h-full max-w-full"
            style={{ maxHeight: VIEW.height, maxWidth: VIEW.width }}
          />
        ) : measured ? (
          <img
            src={`/api/assignments/${row.assignmentId}/output`}
            alt={`${row.name} as it will be`}
            width={width}
            height={height}
            style={{ width, height }}
          />
        ) : (
          <Preview row={row} width={width} height={height} />
        )}
      </div>
      <figcaption className="flex min-h-[30px] items-end justify-between gap-2 px-3 pb-2">
        <span className="figures text-tiny">
          {row.revisionId && (
            <span className="mb-1.5 flex gap-2">
              <ScreenLink screen="frame" name="Frame" keyHint="F" batchId={batchId} rowId={row.id} />
              {weighs && (
                <ScreenLink screen="weigh" name="Weigh" keyHint="E" batchId={batchId} rowId={row.id} />
              )}
            </span>
          )}
          {ink ? "the photo, its ink marked" : `${formatSize(size.width, size.height)} px, at ${shown} %`}
          {!measured && row.geometry ? ", not measured yet" : ""}
        </span>
        {row.geometry && row.geometry.cut > 0.002 && !row.geometry.turn && !row.geometry.angle && (
          <FrameMap row={row} batchId={batchId} />
        )}
      </figcaption>
    </figure>
  );
}

function ScreenLink({
  screen,
  name,
  keyHint,
  batchId,
  rowId,
}: {
  screen: string;
  name: string;
  keyHint: string;
  batchId: string;
  rowId: string;
}) {
  return (
    <Link
      href={`/${screen}?batch=${batchId}&row=${rowId}`}
      className="box press flex h-7 w-fit items-center gap-2 px-2.5 font-words text-base hover:bg-wash"
    >
      {name} <kbd className="figures text-tiny font-normal opacity-80">{keyHint}</kbd>
    </Link>
  );
}

/** Until the file is measured: the photo's preview, cut the same way. */
function Preview({ row, width, height }: { row: RowView; width: number; height: number }) {
  const { geometry, before } = row;
  if (geometry)
    return (
      <PartPicture
        photoId={row.photoId}
        name={row.name}
        geometry={geometry}
        photo={before}
        size={{ width, height }}
      />
    );
  return <img src={`/api/photos/${row.photoId}/view`} alt={row.name} style={{ width, height }} />;
}

/** `first`: of the first file of a set. */
function ProofList({ made, first }: { made: MadeView; first: boolean }) {
  return (
    <section aria-label="Proof" className="mb-4">
      <div className="flex items-center justify-between gap-2">
        <h3 className="text-small font-semibold text-second">
          Proof, read back from the {first ? "widest file" : "file"}
        </h3>
        <a
          href={`/api/items/${made.itemId}/file`}
          download
          className="box press inline-flex h-7 shrink-0 items-center gap-1.5 px-2.5 whitespace-nowrap hover:bg-wash"
        >
          <Download size={14} aria-hidden /> Take it
        </a>
      </div>
      <ProofLines {...made} />
      <TickList runId={made.runId} itemId={made.itemId} rules={made.onlyYou} ticks={made.ticks} />
    </section>
  );
}
