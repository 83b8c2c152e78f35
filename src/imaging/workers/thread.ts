/** The thread that develops and compares: one picture at a time, as it is told. */
import { move, transferableSymbol, valueSymbol } from "piscina";
import type { Answer } from "./threads";
import { carryOut, type Work } from "./work";

export default async function answer(work: Work): Promise<Answer> {
  try {
    const result = await carryOut(work);
    if (!("data" in result)) return { result };
    // Samples that were only handed on still lie in the memory that the next job is written into.
    if (result.data.buffer instanceof SharedArrayBuffer) result.data = result.data.slice();
    const handed = { [transferableSymbol]: result.data.buffer, [valueSymbol]: { result } };
    return move(handed) as unknown as Answer;
  } catch (error) {
    const { name, message, code } = (
      error instanceof Error ? error : new Error(String(error))
    ) as NodeJS.ErrnoException;
    return { error: { name, message, code } };
  }
}
