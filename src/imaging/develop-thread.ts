/** The thread that develops: one picture at a time, as the message says. */
import { parentPort } from "node:worker_threads";
import { develop, type Development, type Samples } from "@/core/develop";

parentPort!.on("message", ({ id, samples, plan }: { id: number; samples: Samples; plan: Development }) => {
  try {
    const developed = develop(samples, plan);
    parentPort!.postMessage({ id, developed }, [developed.data.buffer as ArrayBuffer]);
  } catch (error) {
    parentPort!.postMessage({ id, error: error instanceof Error ? error.message : String(error) });
  }
});
