import { z } from "zod";
import { RequestError, readBody, route } from "@/app/server/answer";
import { receiverView } from "@/app/server/counter";
import { requireReceiver } from "@/app/server/receive";
import { getStore } from "@/app/server/store";
import { rulesSchema } from "@/receivers/rules";
import { setRules } from "@/store/queries/counter";
import { announce } from "@/store/queue";

export const GET = route((_request, { id }) => receiverView(id));

const body = z.strictObject({ rules: rulesSchema });

/** Changes what a receiver asks, or how it behaves. */
export const PUT = route(async (request, { id }) => {
  const { rules } = await readBody(request, body);
  const receiver = await requireReceiver(id);
  if (receiver.rules.kind !== rules.kind)
    throw new RequestError(400, `This receiver is a ${receiver.rules.kind} and stays one.`);
  const { db } = getStore();
  await setRules(db, receiver.id, rules);
  await announce(db, null);
});
