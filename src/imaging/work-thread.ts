/** The thread that develops and compares: one picture at a time, as the message says. */
import { parentPort } from "node:worker_threads";
import { carryOut, type Work } from "./work";

parentPort!.on("message", (work: Work) => {
  try {
    const result = carryOut(work);
    parentPort!.postMessage({ result }, "data" in result ? [result.data.buffer as ArrayBuffer] : []);
  } catch (error) {
    parentPort!.postMessage({ error: error instanceof Error ? { name: error.name, message: error.message } : { name: "Error", message: String(error) } });
  }
});
