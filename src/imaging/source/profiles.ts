/** The profile in a file, if it can be believed. */
import { type Profile, readProfile } from "@/core/pixels/colour";

export interface Judged {
  profile: Profile | null;
  /**
   * Why a profile that is there is not used, as the end of a sentence; null where it is used or none is
   * there.
   */
  fault: string | null;
}

const KIND = { 1: "grey pictures", 3: "RGB pictures", 4: "CMYK pictures" } as const;

/**
 * `channels`: colours of the picture, without alpha. A profile that is broken or belongs to another kind of
 * picture is not used.
 */
export function judgeProfile(icc: Uint8Array | null | undefined, channels: number): Judged {
  if (!icc) return { profile: null, fault: null };
  const profile = readProfile(icc);
  if (!profile) return { profile: null, fault: "is broken" };
  if (profile.channels !== channels)
    return { profile: null, fault: `is one for ${KIND[profile.channels]}, which this is not` };
  return { profile, fault: null };
}
