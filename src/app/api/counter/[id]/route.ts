import * as z from "zod";
import { getStore, RequestError, readBody, receiverView, requireReceiver, route } from "@/app/server";
import { rulesSchema } from "@/receivers";
import { announce } from "@/store";
import { setRules } from "@/store/queries";

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
