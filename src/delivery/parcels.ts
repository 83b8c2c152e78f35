/** Files into as few messages as hold them. */
import { base64Bytes, splitIntoMessages } from "@/core/delivery/mail";
import { type MailFile, mailOverhead } from "./mail";

type Sized = Omit<MailFile, "from">;

/** Bytes that one message of these files takes at most, whichever way they are attached. */
export async function messageBytes(files: readonly Sized[], subject: string): Promise<number> {
  return (
    (await mailOverhead({ subject, files, n: 1, of: 1 })) +
    files.reduce((sum, file) => sum + base64Bytes(file.bytes), 0)
  );
}

/**
 * Files into messages of at most `max` bytes each, in their order where that takes no message more; null
 * where one file alone is too large.
 */
export async function parcelsOf<T extends Sized>(
  files: readonly T[],
  subject: string,
  max: number,
): Promise<T[][] | null> {
  if (!files.length) return [];
  if ((await messageBytes(files, subject)) <= max) return [[...files]];
  const alone = await mailOverhead({ subject, files: [], n: 9, of: 9 });
  const sizes = await Promise.all(
    files.map(
      async (file) =>
        (await mailOverhead({ subject, files: [file], n: 9, of: 9 })) - alone + base64Bytes(file.bytes),
    ),
  );
  return splitIntoMessages(sizes, max - alone)?.map((parcel) => parcel.files.map((i) => files[i])) ?? null;
}
