import * as z from "zod";
import { changeBatch, readBody, route } from "@/app/server";
import { makeEdit } from "@/store/queries";

const body = z.strictObject({ messages: z.int().min(1).max(20) });

/** Over how many messages a limit on one message is shared out. */
export const PUT = route(async (request, { id }) => {
  const { messages } = await readBody(request, body);
  await changeBatch(id, (tx, batch) =>
    makeEdit(tx, batch, messages === 1 ? "one message for all" : `${messages} messages`, {
      kind: "messages",
      before: batch.messages,
      after: messages,
    }),
  );
});
