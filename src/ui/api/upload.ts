"use client";

/** Brings files in: a few at once, with progress, each failure with its reason. */
import { useCallback, useRef, useState } from "react";

export interface Upload {
  key: number;
  name: string;
  /** 0 to 1. */
  share: number;
  error: string | null;
}

const AT_ONCE = 3;

function send(batchId: string, file: File, at: number, progress: (share: number) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", `/api/batches/${batchId}/photos?name=${encodeURIComponent(file.name)}&at=${at}`);
    request.upload.onprogress = (event) => event.lengthComputable && progress(event.loaded / event.total);
    request.onload = () => {
      if (request.status < 300) return resolve();
      try {
        reject(new Error(String((JSON.parse(request.responseText) as { error: string }).error)));
      } catch {
        reject(new Error(`The server answered ${request.status}. Try again.`));
      }
    };
    request.onerror = () => reject(new Error("The connection broke off before the whole file was there. Bring it in again."));
    request.send(file);
  });
}

export function useUploads() {
  const [uploads, setUploads] = useState<Upload[]>([]);
  const next = useRef(0);
  const update = (key: number, change: Partial<Upload>) => setUploads((all) => all.map((u) => (u.key === key ? { ...u, ...change } : u)));

  const bring = useCallback(async (batchId: string, files: readonly File[]) => {
    const now = Date.now();
    const waiting = files.map((file, i) => ({ file, key: (next.current += 1), at: now + i / 1000 }));
    // Listed now: the lanes below take from the waiting ones before React looks at the list.
    const shown = waiting.map(({ file, key }) => ({ key, name: file.name, share: 0, error: null }));
    setUploads((all) => [...all, ...shown]);
    const lane = async () => {
      for (let job = waiting.shift(); job; job = waiting.shift()) {
        const { file, key, at } = job;
        try {
          await send(batchId, file, at, (share) => update(key, { share }));
          setUploads((all) => all.filter((u) => u.key !== key));
        } catch (error) {
          update(key, { error: error instanceof Error ? error.message : String(error) });
        }
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, lane));
  }, []);

  const dismiss = useCallback((key: number) => setUploads((all) => all.filter((u) => u.key !== key)), []);
  return { uploads, bring, dismiss };
}
