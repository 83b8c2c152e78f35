/** What a file is, and which: both from one reading of its bytes. */
import { createHash } from "node:crypto";
import type { Facts } from "@/core/proof";
import { readSource } from "./source";

export interface LookedAt {
  facts: Facts;
  /** Of the whole file. */
  sha256: string;
}

/** Throws as {@link readSource} does. */
export async function lookAt(bytes: Buffer): Promise<LookedAt> {
  const { facts } = await readSource(bytes);
  return { facts, sha256: createHash("sha256").update(bytes).digest("hex") };
}
