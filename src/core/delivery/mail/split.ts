/** Files into as few messages as hold them, in their order where that takes no message more. */

export interface Parcel {
  /** Positions of the files in the list that was given. */
  files: number[];
  /** Sum of what they take, without what every message takes. */
  bytes: number;
}

/**
 * `sizes`: bytes of each file as it stands in a message. `room`: bytes a message has for files. No file is
 * divided;
 * null where one alone is larger than a message.
 */
export function splitIntoMessages(sizes: readonly number[], room: number): Parcel[] | null {
  if (sizes.some((size) => size > room)) return null;
  const inOrder = fill(
    sizes.map((_, i) => i),
    sizes,
    room,
    false,
  );
  const least = Math.ceil(sizes.reduce((sum, size) => sum + size, 0) / room);
  if (inOrder.length <= Math.max(1, least)) return inOrder;
  const largestFirst = fill(
    sizes.map((_, i) => i).sort((a, b) => sizes[b] - sizes[a] || a - b),
    sizes,
    room,
    true,
  );
  if (largestFirst.length >= inOrder.length) return inOrder;
  for (const parcel of largestFirst) parcel.files.sort((a, b) => a - b);
  return largestFirst.sort((a, b) => a.files[0] - b.files[0]);
}

/** Each file into the last message, or into the first of all that has room. */
function fill(order: readonly number[], sizes: readonly number[], room: number, anywhere: boolean): Parcel[] {
  const parcels: Parcel[] = [];
  for (const i of order) {
    const open = anywhere ? parcels : parcels.slice(-1);
    const into = open.find((parcel) => parcel.bytes + sizes[i] <= room);
    if (into) {
      into.files.push(i);
      into.bytes += sizes[i];
    } else parcels.push({ files: [i], bytes: sizes[i] });
  }
  return parcels;
}

/** "Pictures", or "Pictures (2 of 3)" where there are several. */
export const numbered = (subject: string, n: number, of: number): string =>
  of > 1 ? `${subject} (${n} of ${of})` : subject;
