"use client";

/** Brings files in: a few at once, with progress, each failure with its reason. */
import { useCallback, useRef, useState } from "react";
import type { BroughtIn } from "./contract";

export interface Upload {
  key: number;
  name: string;
  bytes: number;
  /** 0 to 1. */
  share: number;
  error: string | null;
}

/** What came of files that were brought in together. */
export interface Arrival {
  added: number;
  known: number;
}

const AT_ONCE = 4;
/** Junk that file managers keep beside pictures. */
const JUNK = /^(\.|thumbs\.db$|desktop\.ini$)/i;

/** The folder that a file lay in below the one that was dropped; empty for a file that was dropped alone. */
export function folderOf(file: File): string {
  const path =
    ("path" in file && typeof file.path === "string" ? file.path : "") || file.webkitRelativePath || "";
  const parts = path.split("/").filter((part) => part !== "" && part !== ".");
  return parts.slice(0, -1).join("/");
}

/**
 * The folders of files that came together. One folder that holds them all is not kept: it is what was
 * brought in.
 */
export function foldersOf(files: readonly File[]): string[] {
  const folders = files.map(folderOf);
  const top = folders[0]?.split("/")[0] ?? "";
  const common = top !== "" && folders.every((folder) => folder.split("/")[0] === top);
  return common ? folders.map((folder) => folder.split("/").slice(1).join("/")) : folders;
}

/** Sends one file into a batch. */
export function sendPhoto({
  batchId,
  file,
  folder,
  at,
  progress = () => undefined,
}: {
  batchId: string;
  file: File;
  folder: string;
  at: number;
  progress?: (share: number) => void;
}): Promise<BroughtIn> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open(
      "POST",
      `/api/batches/${batchId}/photos?name=${encodeURIComponent(file.name)}&folder=${encodeURIComponent(folder)}&at=${at}`,
    );
    request.upload.onprogress = (event) => event.lengthComputable && progress(event.loaded / event.total);
    request.onload = () => {
      try {
        const answer: unknown = JSON.parse(request.responseText);
        if (request.status < 300) return resolve(answer as BroughtIn);
        reject(new Error(String((answer as { error: string }).error)));
      } catch {
        reject(new Error(`The server answered ${request.status}. Try again.`));
      }
    };
    request.onerror = () =>
      reject(new Error("The connection broke off before the whole file was there. Bring it in again."));
    request.send(file);
  });
}

/** How often the list is drawn anew while hundreds of files come in. */
const DRAW_MS = 120;

export function useUploads(onArrived: (arrival: Arrival) => void) {
  const [uploads, setUploads] = useState<Upload[]>([]);
  const list = useRef<Upload[]>([]);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const next = useRef(0);
  const draw = useCallback(() => {
    timer.current ??= setTimeout(() => {
      timer.current = null;
      setUploads([...list.current]);
    }, DRAW_MS);
  }, []);
  const change = useCallback(
    (next: (all: Upload[]) => Upload[]) => {
      list.current = next(list.current);
      draw();
    },
    [draw],
  );

  const bring = useCallback(
    async (batchId: string, files: readonly File[]) => {
      const now = Date.now();
      const pictures = files.filter((file) => !JUNK.test(file.name));
      const folders = foldersOf(pictures);
      const waiting = pictures.map((file, i) => ({
        file,
        folder: folders[i],
        key: (next.current += 1),
        at: now + i / 1000,
      }));
      change((all) => [
        ...all,
        ...waiting.map(({ file, key }) => ({
          key,
          name: file.name,
          bytes: file.size,
          share: 0,
          error: null,
        })),
      ]);
      const arrival = { added: 0, known: 0 };
      const fail = (key: number, error: string) =>
        change((all) => all.map((upload) => (upload.key === key ? { ...upload, error } : upload)));
      const lane = async () => {
        for (let job = waiting.shift(); job; job = waiting.shift()) {
          const { file, folder, key, at } = job;
          try {
            const answer = await sendPhoto({
              batchId,
              file,
              folder,
              at,
              progress: (share) =>
                change((all) => all.map((upload) => (upload.key === key ? { ...upload, share } : upload))),
            });
            arrival.added += answer.added;
            arrival.known += answer.known;
            change((all) => [
              ...all.filter((upload) => upload.key !== key),
              ...refusals(answer, () => (next.current += 1)),
            ]);
          } catch (error) {
            fail(key, error instanceof Error ? error.message : String(error));
          }
        }
      };
      await Promise.all(Array.from({ length: AT_ONCE }, lane));
      onArrived(arrival);
    },
    [change, onArrived],
  );

  const dismiss = useCallback(
    (keys: readonly number[]) => change((all) => all.filter((upload) => !keys.includes(upload.key))),
    [change],
  );
  return { uploads, bring, dismiss };
}

/** Entries of a package that were not taken stand in the list like files that failed. */
function refusals({ refused, refusedCount }: BroughtIn, key: () => number): Upload[] {
  const shown = refused.map(({ name, why }) => ({ key: key(), name, bytes: 0, share: 0, error: why }));
  if (refusedCount > refused.length)
    shown.push({
      key: key(),
      name: `${refusedCount - refused.length} more`,
      bytes: 0,
      share: 0,
      error: "These were not taken either, for reasons like the ones above.",
    });
  return shown;
}
