import { z } from "zod";
import { parseBrief } from "@/core/brief";
import { readBody, RequestError, route } from "@/app/server/answer";
import { changeBatch } from "@/app/server/batch";
import { getStore } from "@/app/server/store";
import { createBrief, getRevision, reviseBrief } from "@/store/queries/briefs";
import { makeEdit } from "@/store/queries/edits";

const body = z.union([
  z.strictObject({ revisionId: z.uuid() }),
  z.strictObject({ brief: z.unknown(), words: z.string().min(1).max(200) }),
]);

/** Chooses another brief, or revises the one in use. */
export const PUT = route(async (request, { id }) => {
  const wanted = await readBody(request, body);
  const { db } = getStore();
  if ("revisionId" in wanted) {
    const revision = await getRevision(db, wanted.revisionId);
    if (!revision) throw new RequestError(404, "This brief is no longer there. Choose another.");
    return changeBatch(id, (tx, batch) =>
      makeEdit(tx, batch, `choosing ${revision.body.name}`, { kind: "brief", before: batch.revisionId, after: revision.id }),
    );
  }
  const brief = parseBrief(wanted.brief);
  return changeBatch(id, async (tx, batch) => {
    const current = batch.revisionId ? await getRevision(tx, batch.revisionId) : null;
    const revision = current ? await reviseBrief(tx, current.briefId, brief) : await createBrief(tx, batch.workspaceId, brief);
    await makeEdit(tx, batch, wanted.words, { kind: "brief", before: batch.revisionId, after: revision.id });
  });
});
