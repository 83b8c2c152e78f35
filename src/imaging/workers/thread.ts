/** The thread that develops and compares: one picture at a time, as the message says. */
import { parentPort } from "node:worker_threads";
import { carryOut, type Work } from "./work";

parentPort!.on("message", (work: Work) => {
  try {
    const result = carryOut(work);
    // Samples that were only handed on still lie in the memory that the next job is written into.
    if ("data" in result && result.data.buffer instanceof SharedArrayBuffer)
      result.data = result.data.slice();
    parentPort!.postMessage({ result }, "data" in result ? [result.data.buffer as ArrayBuffer] : []);
  } catch (error) {
    parentPort!.postMessage({
      error:
        error instanceof Error
          ? { name: error.name, message: error.message }
          : { name: "Error", message: String(error) },
    });
  }
});
