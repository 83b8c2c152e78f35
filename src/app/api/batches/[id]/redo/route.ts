import { route } from "@/app/server/answer";
import { changeBatch } from "@/app/server/batch";
import { stepEdit } from "@/store/queries/edits";

export const POST = route(async (_request, { id }) => ({
  done: await changeBatch(id, (tx, batch) => stepEdit(tx, batch.workspaceId, batch.id, "redo")),
}));
