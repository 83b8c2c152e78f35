/** Samples in memory that threads share, so that a picture is not copied for everything that is done with it. */

type Samples = Uint8Array | Uint16Array;

const known = new WeakMap<Samples, { id: string; data: Samples }>();
let count = 0;

/** Its samples where threads share them already, else a copy that is made once, and a name that no other has. */
export function shared(data: Samples): { id: string; data: Samples } {
  const before = known.get(data);
  if (before) return before;
  const made = { id: `samples ${(count += 1)}`, data: isShared(data) ? data : copied(data) };
  known.set(data, made);
  return made;
}

const isShared = ({ buffer }: Samples): boolean => buffer instanceof SharedArrayBuffer;

function copied(data: Samples): Samples {
  const memory = new SharedArrayBuffer(data.byteLength);
  const copy = data instanceof Uint16Array ? new Uint16Array(memory) : new Uint8Array(memory);
  copy.set(data);
  return copy;
}
