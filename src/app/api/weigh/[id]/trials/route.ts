import { z } from "zod";
import {
  events,
  getStore,
  RequestError,
  readBody,
  requireWeighed,
  route,
  trialPicture,
  trialView,
  weighedGeometry,
} from "@/app/server";
import { choiceSchema, settingKey, settingOf } from "@/core/coding";
import { addTrial } from "@/store";
import { keptTrial, seeWeighing, weighPlan } from "@/store/queries";
import type { TrialView } from "@/ui/api";

const body = z.strictObject({ choice: choiceSchema });

/** How long the answer waits for the trial; a longer one appears among the others when it is there. */
const PATIENCE_MS = 5000;

/** Has one trial made, and answers with it when it is there. */
export const POST = route(async (request, { id }): Promise<{ trial: TrialView | null }> => {
  const { choice } = await readBody(request, body);
  const row = await requireWeighed(id);
  const geometry = weighedGeometry(row);
  const setting = settingOf(choice, geometry.width * geometry.height);
  if (!setting)
    throw new RequestError(400, "Only a setting can be tried: a format with its quality or colours.");
  const store = getStore();
  const { db } = store;
  const key = settingKey(setting);
  const look = async () => {
    const plan = await weighPlan(db, row.id);
    const made = plan && (await keptTrial(db, plan, key));
    return made ? { made, view: trialView(made, plan) } : null;
  };
  await seeWeighing(db, row.id);
  const coming = watched(look);
  await addTrial(db, row.id, choice);
  const found = await coming;
  // Decoded while the answer is on its way: the pane asks for its pixels next.
  if (found)
    void store.files
      .read(found.made.sha256!)
      .then((encoded) => trialPicture({ store, row, geometry, key, setting, encoded }))
      .catch(() => undefined);
  return { trial: found?.view ?? null };
});

/**
 * What is looked for as soon as it is there: looked at whenever the worker announces anything. Null where
 * patience ends.
 */
function watched<T>(look: () => Promise<T | null>): Promise<T | null> {
  return new Promise((resolve) => {
    const done = (answer: T | null) => {
      clearTimeout(timer);
      unsubscribe();
      resolve(answer);
    };
    const unsubscribe = events().subscribe(
      () =>
        void look().then(
          (found) => found && done(found),
          () => done(null),
        ),
    );
    const timer = setTimeout(() => done(null), PATIENCE_MS);
  });
}
