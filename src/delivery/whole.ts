/** How a limit on the whole is counted: the files alone, or the messages that hold them. */
import type { Limit, Whole } from "@/core/budget";
import { base64Bytes } from "@/core/delivery/mail";
import { mailOverhead, typeOf } from "./mail";

/** Whole files rarely fill several messages to the brim. */
const MESSAGE_FILL = 0.96;

/** Bytes that the messages have beside their files, which are named as they will be. */
export async function overheadOf(
  { counted, messages }: Limit,
  subject: string,
  names: readonly string[],
): Promise<number> {
  if (counted === "files") return 0;
  const files = names.map((name) => ({ name, type: typeOf(name), bytes: 0 }));
  const first = await mailOverhead({ subject, files, n: 1, of: messages });
  return messages > 1
    ? first + (await mailOverhead({ subject, files: [], n: 1, of: messages })) * (messages - 1)
    : first;
}

/** What a file of so many bytes adds to the whole. */
export const countedAs = ({ counted }: Limit): Whole["each"] =>
  counted === "mail" ? base64Bytes : (bytes) => bytes;

export async function wholeOf(limit: Limit, subject: string, names: readonly string[]): Promise<Whole> {
  const { max, messages } = limit;
  const each = countedAs(limit);
  const fixed = await overheadOf(limit, subject, names);
  const room = Math.max(max / 2, max * MESSAGE_FILL - fixed);
  return {
    max: (messages > 1 ? Math.floor(max * MESSAGE_FILL) : max) * messages,
    fixed,
    each,
    // No file is split between messages.
    ...(messages > 1 && { most: Math.floor((room * room) / each(room)) }),
  };
}
