/** Undo and redo: the edit that is meant is named, and the answer says what would be next. */
import * as z from "zod";
import { editState, stepEdit } from "@/store/queries";
import type { Stepped } from "@/ui/api";
import { readBody, route } from "./answer";
import { changeBatch } from "./batch";

const body = z.strictObject({ edit: z.int() });

export const editStep = (direction: "undo" | "redo") =>
  route(async (request, { id }): Promise<Stepped> => {
    const { edit } = await readBody(request, body);
    return changeBatch(id, async (tx, batch) => {
      const done = await stepEdit(tx, batch, direction, edit);
      return { done, ...(await editState(tx, batch.id)) };
    });
  });
