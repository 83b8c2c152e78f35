"use client";

/**
 * How the selected photo is taken from a file that holds more than one picture of it, and how its lights are
 * taken above white.
 */
import Link from "next/link";
import { DEFAULT_LIGHT, DEFAULT_RAW, type Frame } from "@/core/photo";
import { formatSize, trimNumber } from "@/core/units";
import type { RowView } from "../api";
import { call, useChange } from "../api";
import { Button, Slide } from "../parts";

interface Props {
  batchId: string;
  row: RowView;
}

/** What was just set is shown at once, not when the server has answered. */
function useFrame({ batchId, row }: Props): [Frame, (frame: Frame) => void] {
  const set = useChange((frame: Frame) =>
    call("PUT", `batches/${batchId}/frame`, { rowId: row.id, frame, accepted: false }),
  );
  return [set.isPending ? set.variables : row.frame, set.mutate];
}

const BOX = "mb-3 rounded-box border border-rule px-3 py-2";

/** Whatever of these the photo and its brief call for. */
/** `alike`: photos under the same brief, this one among them. */
export function TakingPanel(props: Props & { bright: boolean; alike: number }) {
  const { format, pages } = props.row.before;
  return (
    <>
      {format === "raw" && <RawPanel {...props} />}
      {format === "tiff" && pages > 1 && <PagePanel {...props} />}
      {(format === "ora" || (format === "tiff" && pages > 1)) && (
        <p className="mb-3">
          <Link
            href={`/layers?batch=${props.batchId}&row=${props.row.id}`}
            className="box press inline-flex h-7 items-center px-2.5 hover:bg-wash"
          >
            {format === "ora" ? "Layers and what they weigh" : "Pages and what they weigh"}
          </Link>
        </p>
      )}
      {props.bright && <LightPanel {...props} />}
    </>
  );
}

function RawPanel(props: Props) {
  const [frame, set] = useFrame(props);
  const now = frame.raw ?? DEFAULT_RAW;
  const { preview } = props.row.before;
  const put = (change: Partial<typeof now>) => set({ ...frame, raw: { ...now, ...change } });
  const own = preview
    ? `The camera's own picture, ${formatSize(preview.width, preview.height)} px`
    : "The camera's own picture: there is none";
  return (
    <fieldset className={BOX}>
      <legend className="px-1 text-small font-semibold text-second">Raw file</legend>
      <Choice
        type="radio"
        name="way"
        label="Developed here"
        checked={now.way === "developed"}
        onChange={() => put({ way: "developed" })}
      />
      <div className="ml-6">
        <Choice
          type="checkbox"
          label="Brighten to white"
          disabled={now.way === "camera"}
          checked={now.brighten}
          onChange={(brighten) => put({ brighten })}
        />
        <Choice
          type="checkbox"
          label="Recover too bright lights"
          disabled={now.way === "camera"}
          checked={now.recover}
          onChange={(recover) => put({ recover })}
        />
      </div>
      <Choice
        type="radio"
        name="way"
        label={own}
        disabled={preview === null}
        checked={now.way === "camera"}
        onChange={() => put({ way: "camera" })}
      />
    </fieldset>
  );
}

interface ChoiceProps {
  type: "radio" | "checkbox";
  name?: string;
  label: string;
  checked: boolean;
  disabled?: boolean;
  onChange: (checked: boolean) => void;
}

function Choice({ type, name, label, checked, disabled, onChange }: ChoiceProps) {
  return (
    <label className={`flex min-h-6 items-center gap-2 ${disabled ? "text-second" : ""}`}>
      <input
        type={type}
        name={name}
        checked={checked}
        disabled={disabled}
        onChange={(event) => onChange(event.target.checked)}
        className="size-4 shrink-0 accent-plum"
      />
      {label}
    </label>
  );
}

function PagePanel(props: Props) {
  const [frame, set] = useFrame(props);
  const { row } = props;
  const page = frame.page ?? 1;
  return (
    <label className={`${BOX} flex items-center gap-2`}>
      Page
      <select
        aria-label="Page of the file"
        value={page}
        onChange={(event) => set({ ...frame, page: Number(event.target.value) })}
        className="box h-7 px-1.5"
      >
        {Array.from({ length: row.before.pages }, (_, i) => (
          <option key={i} value={i + 1}>
            {i + 1}
          </option>
        ))}
      </select>
      of {row.before.pages}
    </label>
  );
}

/** The three controls of taking lights above white; nothing where the file has light of its own. */
function LightPanel(props: Props & { alike: number }) {
  const [frame, set] = useFrame(props);
  const { row, batchId, alike } = props;
  const forAll = useChange(() => call("PUT", `batches/${batchId}/light`, { rowId: row.id }));
  const now = frame.light ?? DEFAULT_LIGHT;
  const raw = frame.raw ?? DEFAULT_RAW;
  const own =
    (row.before.light?.reach ?? 1) > 1 ||
    (row.before.gainMap ?? 1) > 1 ||
    (row.before.format === "raw" && raw.way === "developed" && raw.recover);
  if (own) return <p className={`${BOX} text-small`}>Light above white is in the file and stays as it is.</p>;
  const put = (change: Partial<typeof now>) => set({ ...frame, light: { ...now, ...change } });
  return (
    <section aria-label="Light above white" className={BOX}>
      <h3 className="text-small font-semibold text-second">Lights above white</h3>
      <Slide
        label="Strength"
        value={now.strength}
        max={100}
        say={String}
        onSet={(strength) => put({ strength })}
      />
      <Slide
        label="Begins at"
        value={now.start}
        min={50}
        max={98}
        say={(value) => `${value} %`}
        onSet={(start) => put({ start })}
      />
      <Slide
        label="Peak"
        value={now.peak}
        min={1.5}
        max={20}
        step={0.1}
        say={(value) => `${trimNumber(value, 1)} ×`}
        onSet={(peak) => put({ peak })}
      />
      {alike > 1 && (
        <Button className="mt-2" disabled={forAll.isPending} onClick={() => forAll.mutate(undefined)}>
          So for all {alike} photos
        </Button>
      )}
    </section>
  );
}
