"use client";

import { MoreHorizontal, X } from "lucide-react";
import { type FormEvent, type KeyboardEvent, type ReactNode, useState } from "react";
import { formatBytes } from "@/core/units";
import type { DeskView, Upload } from "../api";
import { call, useChange } from "../api";
import { Button, Menu, ProgressBar } from "../parts";
import { say } from "../say";

interface Props {
  desk: DeskView | null;
  error: Error | null;
  chosen: string | null;
  onChoose: (id: string) => void;
  uploads: Upload[];
  onDismiss: (keys: readonly number[]) => void;
  onOpen: () => void;
  onFolder: () => void;
  /** The hidden file input that the button opens. */
  input: ReactNode;
}

export function BatchRail({
  desk,
  error,
  chosen,
  onChoose,
  uploads,
  onDismiss,
  onOpen,
  onFolder,
  input,
}: Props) {
  return (
    <aside aria-label="Batches" className="row-span-2 flex min-h-0 flex-col border-r border-rule bg-rail">
      <div className="flex items-center justify-between px-[18px] pt-3.5 pb-1">
        <h2 className="text-small font-semibold text-second">Batches</h2>
        <NewBatch onMade={onChoose} />
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
        {error && <li className="p-2 text-not">{error.message}</li>}
        {desk?.batches.map((batch, i) => (
          <li key={batch.id} className="group relative">
            <button
              type="button"
              aria-current={batch.id === chosen}
              // One stop for the Tab key however many batches there are; the arrows go from one to the next.
              tabIndex={batch.id === chosen || (chosen === null && i === 0) ? 0 : -1}
              onKeyDown={stepAmong}
              onClick={() => onChoose(batch.id)}
              className={`mb-1 w-full rounded-box border px-2.5 py-2 text-left ${batch.id === chosen ? "border-rule bg-sheet" : "border-transparent hover:bg-thin"}`}
            >
              <span className="block pr-6 font-semibold [overflow-wrap:anywhere]">{batch.name}</span>
              <span className="figures text-small text-second">
                {batch.photos} {batch.photos === 1 ? "photo" : "photos"} · {formatBytes(batch.bytes)}
              </span>
            </button>
            <BatchMenu id={batch.id} name={batch.name} reached={batch.id === chosen} />
          </li>
        ))}
        {desk?.demoComing && (
          <li className="px-2.5 py-2 text-small text-second">
            <span role="status">The demo is being made; it appears here batch by batch.</span>
          </li>
        )}
      </ul>
      <UploadList uploads={uploads} onDismiss={onDismiss} />
      <div className="p-3">
        {input}
        <button
          type="button"
          onClick={onOpen}
          className="w-full rounded-box border border-dashed border-[#9a9a98] px-2 py-4 text-center hover:bg-wash"
        >
          <span className="press block">Drop photos here</span>
          <span className="text-small text-ink">or choose files, or paste</span>
        </button>
        <Button kind="quiet" className="mt-1 w-full text-small" onClick={onFolder}>
          Bring in a whole folder
        </Button>
        <PutDemoBack disabled={desk?.demoComing ?? true} />
      </div>
    </aside>
  );
}

/** The arrow keys go to the next batch of the list, up or down. */
function stepAmong(event: KeyboardEvent<HTMLButtonElement>) {
  const item = event.currentTarget.closest("li")!;
  const next =
    event.key === "ArrowDown"
      ? item.nextElementSibling
      : event.key === "ArrowUp"
        ? item.previousElementSibling
        : null;
  const button = next?.querySelector<HTMLButtonElement>("button");
  if (!button) return;
  event.preventDefault();
  button.focus();
}

/** @param reached whether the Tab key stops here: only at the batch that is open */
function BatchMenu({ id, name, reached }: { id: string; name: string; reached: boolean }) {
  const [naming, setNaming] = useState(false);
  const rename = useChange((next: string) => call("PUT", `batches/${id}`, { name: next }));
  const back = useChange(() => call("POST", `batches/${id}/restore`, {}));
  const remove = useChange(async () => {
    await call("DELETE", `batches/${id}`);
    say(`${name} was removed.`, {
      action: { label: "Bring it back", onClick: () => back.mutate(undefined) },
      duration: 20_000,
    });
  });
  if (naming) {
    return (
      <form
        className="absolute inset-x-1 top-1"
        onSubmit={(event) => {
          event.preventDefault();
          const next = String(new FormData(event.currentTarget).get("name")).trim();
          setNaming(false);
          if (next) rename.mutate(next);
        }}
        onKeyDown={(event) => event.key === "Escape" && setNaming(false)}
      >
        <input
          name="name"
          defaultValue={name}
          autoFocus
          maxLength={200}
          aria-label={`New name of ${name}`}
          className="box h-7 w-full px-2"
          onBlur={() => setNaming(false)}
        />
      </form>
    );
  }
  return (
    <Menu
      trigger={
        <button
          type="button"
          tabIndex={reached ? 0 : -1}
          aria-label={`What to do with ${name}`}
          className="absolute top-1 right-1 grid size-6 place-items-center rounded text-second hover:bg-wash"
        >
          <MoreHorizontal size={15} aria-hidden />
        </button>
      }
      align="end"
      onCloseAutoFocus={(event) => event.preventDefault()}
      entries={[
        { words: "Rename", onSelect: () => setNaming(true) },
        { words: "Remove the batch", onSelect: () => remove.mutate(undefined) },
      ]}
    />
  );
}

function NewBatch({ onMade }: { onMade: (id: string) => void }) {
  const [naming, setNaming] = useState(false);
  const make = useChange(async (name: string) => {
    const { id } = await call<{ id: string }>("POST", "batches", { name });
    onMade(id);
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const name = String(new FormData(event.currentTarget).get("name")).trim();
    setNaming(false);
    if (name) make.mutate(name);
  };
  if (!naming) {
    return (
      <Button kind="quiet" onClick={() => setNaming(true)}>
        New
      </Button>
    );
  }
  return (
    <form onSubmit={submit} onKeyDown={(event) => event.key === "Escape" && setNaming(false)}>
      <input
        name="name"
        autoFocus
        maxLength={200}
        aria-label="Name of the new batch"
        placeholder="Name, Enter"
        className="box h-7 w-28 px-2"
        onBlur={(event) => event.currentTarget.value.trim() === "" && setNaming(false)}
      />
    </form>
  );
}

function UploadList({ uploads, onDismiss }: Pick<Props, "uploads" | "onDismiss">) {
  if (!uploads.length) return null;
  const going = uploads.filter((u) => !u.error);
  const failed = uploads.filter((u) => u.error);
  const all = going.reduce((sum, u) => sum + u.bytes, 0);
  const share = going.reduce((sum, u) => sum + u.share * u.bytes, 0) / Math.max(1, all);
  return (
    <section
      aria-label="Photos on their way in"
      className="max-h-[40%] overflow-y-auto border-t border-rule px-3 pt-2"
    >
      {going.length > 0 && (
        <div role="status" className="mb-2 text-small">
          Bringing in {going.length} {going.length === 1 ? "file" : "files"}, {formatBytes(all)}
          <ProgressBar label="Progress" value={share} max={1} />
        </div>
      )}
      {failed.length > 2 && (
        <Button kind="quiet" className="text-small" onClick={() => onDismiss(failed.map((u) => u.key))}>
          Dismiss all {failed.length}
        </Button>
      )}
      {failed.map((upload) => (
        <div
          key={upload.key}
          role="alert"
          className="mb-2 rounded-box border border-rule bg-not-wash p-2 text-small"
        >
          <div className="flex items-start justify-between gap-1">
            <strong className="[overflow-wrap:anywhere]">{upload.name}</strong>
            <button
              type="button"
              aria-label={`Dismiss ${upload.name}`}
              className="text-second"
              onClick={() => onDismiss([upload.key])}
            >
              <X size={14} aria-hidden />
            </button>
          </div>
          {upload.error}
        </div>
      ))}
    </section>
  );
}

function PutDemoBack({ disabled }: { disabled: boolean }) {
  const put = useChange(() => call("POST", "demo", {}));
  return (
    <Button
      kind="quiet"
      className="w-full text-small"
      disabled={disabled || put.isPending}
      onClick={() => put.mutate(undefined)}
    >
      Put the demo back
    </Button>
  );
}
