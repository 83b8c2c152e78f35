/** Trials of one photo while it is worked on, where no database remembers them. */
import { settingKey } from "@/core/coding";
import type { Judged } from "../workers";
import type { PictureLook, TrialStore } from "./trial-store";

/** Bytes of encodings that are held unless said otherwise; the oldest go first. */
const CAP = 64 * 1024 * 1024;

export function memoryTrials(cap = CAP): TrialStore {
  const looks = new Map<string, PictureLook>();
  const trials = new Map<string, { bytes: number; judged: Judged | null; encoded: Buffer | null }>();
  let held = 0;
  const at = (picture: string, setting: string) => trials.get(`${picture} ${setting}`);
  return {
    look: async (key) => looks.get(key) ?? null,
    keepLook: async (key, look) => void looks.set(key, look),
    find: async (picture, setting) => at(picture, setting) ?? null,
    read: async (picture, setting) => at(picture, setting)?.encoded ?? null,
    async keep(picture, setting, encoded) {
      const key = `${picture} ${settingKey(setting)}`;
      held += encoded.length - (trials.get(key)?.encoded?.length ?? 0);
      trials.delete(key);
      trials.set(key, {
        bytes: encoded.length,
        judged: null,
        encoded: Buffer.from(encoded.buffer, encoded.byteOffset, encoded.length),
      });
      for (const [old, trial] of trials) {
        if (held <= cap || old === key) break;
        held -= trial.encoded?.length ?? 0;
        trial.encoded = null;
      }
    },
    async judge(picture, setting, judged) {
      const trial = at(picture, setting);
      if (trial) trial.judged = judged;
    },
  };
}
