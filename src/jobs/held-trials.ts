/**
 * Trials of one photo that are written down when it is done, all at once: they are a cache, and whoever works on the
 * photo does not wait for it. What is seen of a trial that is held is held with it.
 */
import { settingKey } from "@/core/coding";
import type { PictureLook, TrialStore } from "@/imaging/candidates";
import type { Store } from "@/store";
import { type HeldTrial, keepTrials, trialStore } from "@/store/queries";

/** Bytes that are held; what comes then is written first. */
const CAP = 64 * 1024 * 1024;

export interface HeldTrials extends TrialStore {
  /** Writes down what is held. */
  settle(): Promise<void>;
}

export function holdTrials(store: Store): HeldTrials {
  const beneath = trialStore(store);
  const looks = new Map<string, PictureLook>();
  const trials = new Map<string, HeldTrial & { encoded: Buffer }>();
  /** Pictures of which nothing was known when this photo was begun. */
  const unknown = new Set<string>();
  let bytes = 0;
  const at = (picture: string, setting: string) => trials.get(`${picture} ${setting}`);
  const settle = async () => {
    const held = { looks: [...looks], trials: [...trials.values()] };
    looks.clear();
    trials.clear();
    bytes = 0;
    for (const { pictureKey } of held.trials) unknown.delete(pictureKey);
    await keepTrials(store, held);
  };
  return {
    settle,
    async look(key) {
      const known = looks.get(key) ?? (await beneath.look(key));
      if (!known) unknown.add(key);
      return known;
    },
    keepLook: async (key, look) => void looks.set(key, look),
    async find(picture, setting) {
      const held = at(picture, setting);
      if (held) return { bytes: held.encoded.length, judged: held.judged };
      return unknown.has(picture) ? null : beneath.find(picture, setting);
    },
    async read(picture, setting) {
      return at(picture, setting)?.encoded ?? (unknown.has(picture) ? null : beneath.read(picture, setting));
    },
    async keep(pictureKey, setting, encoded, ms) {
      if (bytes + encoded.length > CAP) await settle();
      bytes += encoded.length;
      const own = Buffer.from(encoded.buffer, encoded.byteOffset, encoded.length);
      trials.set(`${pictureKey} ${settingKey(setting)}`, {
        pictureKey,
        setting,
        encoded: own,
        ms,
        judged: null,
      });
    },
    async judge(picture, setting, judged) {
      const held = at(picture, setting);
      if (held) held.judged = judged;
      else await beneath.judge(picture, setting, judged);
    },
  };
}

/** Carries work out with trials that are written down at its end, however that comes. */
export async function withHeldTrials<T>(store: Store, work: (trials: HeldTrials) => Promise<T>): Promise<T> {
  const trials = holdTrials(store);
  try {
    return await work(trials);
  } finally {
    await trials.settle();
  }
}
