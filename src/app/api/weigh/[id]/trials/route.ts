import { z } from "zod";
import { choiceSchema, settingKey, settingOf } from "@/core/search";
import { readBody, RequestError, route } from "@/app/server/answer";
import { getStore } from "@/app/server/store";
import { requireWeighed, weighedGeometry } from "@/app/server/weigh";
import { seeWeighing } from "@/store/queries/weigh";
import { addTrial } from "@/store/queue";

const body = z.strictObject({ choice: choiceSchema });

/** Has one trial made; it appears among the others as soon as it is there. */
export const POST = route(async (request, { id }) => {
  const { choice } = await readBody(request, body);
  const row = await requireWeighed(id);
  const { width, height } = weighedGeometry(row);
  const setting = settingOf(choice, width * height);
  if (!setting) throw new RequestError(400, "Only a setting can be tried: a format with its quality or colours.");
  const { db } = getStore();
  await seeWeighing(db, row.id);
  await addTrial(db, row.id, choice);
  return { key: settingKey(setting) };
});
