import { changeBatch, route } from "@/app/server";
import { stepEdit } from "@/store/queries";

export const POST = route(async (_request, { id }) => ({
  done: await changeBatch(id, (tx, batch) => stepEdit(tx, batch.workspaceId, batch.id, "undo")),
}));
