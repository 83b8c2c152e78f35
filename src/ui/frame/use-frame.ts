"use client";

/** The frame of one photo while it is edited: shown at once, saved when the hand rests. */
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { type Brief, resolveBrief } from "@/core/brief";
import { type Editing, type Geometry, planGeometry } from "@/core/geometry";
import { type Frame, tidyFrame } from "@/core/photo";
import type { RowView } from "../api";
import { call, useChange } from "../api";

export interface FrameEditor {
  frame: Frame;
  editing: Editing;
  /** Null where the photo cannot take the frame; `error` says why. */
  geometry: Geometry | null;
  error: string | null;
  /** Whether what is shown is not on the server yet. */
  unsaved: boolean;
  /** Changes the frame, unless the photo cannot take it. */
  edit: (change: (editing: Editing, frame: Frame) => Frame) => void;
  /** Saves now; `accepted` says that it is right. */
  save: (accepted: boolean) => Promise<void>;
}

/** Milliseconds without a change after which it is saved. */
const REST = 350;

function planned(editing: Editing, frame: Frame): { geometry: Geometry | null; error: string | null } {
  try {
    return { geometry: planGeometry(editing.brief, editing.photo, frame), error: null };
  } catch (error) {
    return { geometry: null, error: error instanceof Error ? error.message : String(error) };
  }
}

export function useFrame(batchId: string, row: RowView, brief: Brief): FrameEditor {
  const { width, height } = row.before;
  const editing = useMemo(
    () => ({ brief: resolveBrief(brief), photo: { width, height } }),
    [brief, width, height],
  );
  const server = JSON.stringify(tidyFrame(row.frame));
  const [frame, setFrame] = useState<Frame>(() => JSON.parse(server) as Frame);
  const [refused, setRefused] = useState<string | null>(null);
  const latest = useRef(frame);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const { mutateAsync, isPending } = useChange((next: { frame: Frame; accepted: boolean }) =>
    call("PUT", `batches/${batchId}/frame`, { rowId: row.id, ...next }),
  );
  const [touched, setTouched] = useState(false);

  // Undo, another screen and a proposal come from the server; what is being edited here is newer.
  useEffect(() => {
    if (touched || isPending) return;
    latest.current = JSON.parse(server) as Frame;
    setFrame(latest.current);
    setRefused(null);
  }, [server, touched, isPending]);

  const save = useCallback(
    async (accepted: boolean) => {
      if (timer.current) clearTimeout(timer.current);
      timer.current = null;
      await mutateAsync({ frame: latest.current, accepted }).catch(() => undefined);
      // What was moved while this was on its way waits for its own turn; the server's answer is older.
      if (timer.current === null) setTouched(false);
    },
    [mutateAsync],
  );
  const saveLatest = useRef(save);
  saveLatest.current = save;
  // Nothing that was moved is lost when the screen is left.
  useEffect(() => () => void (timer.current && saveLatest.current(true)), []);

  const edit = useCallback(
    (change: (editing: Editing, frame: Frame) => Frame) => {
      let next: Frame;
      try {
        next = tidyFrame(change(editing, latest.current));
      } catch (error) {
        return setRefused(error instanceof Error ? error.message : String(error));
      }
      const { error } = planned(editing, next);
      setRefused(error);
      if (error) return;
      latest.current = next;
      setFrame(next);
      setTouched(true);
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(() => void saveLatest.current(true), REST);
    },
    [editing],
  );

  const { geometry, error } = useMemo(() => planned(editing, frame), [editing, frame]);
  return { frame, editing, geometry, error: refused ?? error, unsaved: touched || isPending, edit, save };
}
