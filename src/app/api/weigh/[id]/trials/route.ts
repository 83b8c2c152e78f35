import * as z from "zod";
import {
  events,
  getStore,
  RequestError,
  readBody,
  requireWeighed,
  route,
  sizeAt,
  trialPicture,
  trialView,
} from "@/app/server";
import { atSide, choiceSchema, settingKey, settingOf, sideOf } from "@/core/coding";
import { pixelsOf } from "@/core/geometry";
import { addTrial } from "@/store";
import { keptTrial, seeWeighing, weighedSize } from "@/store/queries";
import type { TrialView } from "@/ui/api";

const body = z.strictObject({ choice: choiceSchema });

/** How long the answer waits for the trial; a longer one appears among the others when it is there. */
const PATIENCE_MS = 5000;

/** Has one trial made, and answers with it when it is there. */
export const POST = route(async (request, { id }): Promise<{ trial: TrialView | null }> => {
  const { choice } = await readBody(request, body);
  const row = await requireWeighed(id);
  const { side, ...size } = sizeAt(row, sideOf(choice));
  const setting = settingOf(choice, pixelsOf(size));
  if (!setting)
    throw new RequestError(400, "Only a setting can be tried: a format with its quality or colours.");
  const store = getStore();
  const { db } = store;
  const look = async () => {
    const size = await weighedSize(db, row.id, side);
    const made = size && (await keptTrial(db, size, settingKey(setting)));
    return made ? { made, size, view: trialView(made, size, side) } : null;
  };
  const coming = watched(look);
  await Promise.all([seeWeighing(db, row.id), addTrial(db, row.id, atSide(choice, side))]);
  const found = await coming;
  // Decoded while the answer is on its way: the pane asks for its pixels next.
  if (found) {
    const { made, size, view } = found;
    void trialPicture(store, row, view.key, async () => ({
      geometry: size.geometry,
      pictureKey: size.formats[setting.format]!.pictureKey,
      setting,
      encoded: () => store.files.read(made.sha256!),
    })).catch(() => undefined);
  }
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
    const unsubscribe = events.subscribe(
      () =>
        void look().then(
          (found) => found && done(found),
          () => done(null),
        ),
    );
    const timer = setTimeout(() => done(null), PATIENCE_MS);
  });
}
