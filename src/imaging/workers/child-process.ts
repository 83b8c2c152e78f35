/** A process that is given bytes and gives bytes back, and that can be killed. */
import { spawn } from "node:child_process";

export interface Ended {
  /** Exit code, or the signal that ended it. */
  code: number | string | null;
  out: Buffer;
  /** The last line of what it said on standard error. */
  words: string;
}

/**
 * Where `signal` is aborted the process is killed, and what it was aborted with is thrown. Null where there
 * is no such program.
 */
export function pipeThrough(
  command: string,
  args: readonly string[],
  input: Uint8Array,
  signal?: AbortSignal,
): Promise<Ended | null> {
  return new Promise((resolve, reject) => {
    signal?.throwIfAborted();
    const child = spawn(command, args, { stdio: ["pipe", "pipe", "pipe"] });
    const out: Buffer[] = [];
    const words: Buffer[] = [];
    const die = () => void child.kill("SIGKILL");
    process.once("exit", die);
    signal?.addEventListener("abort", die, { once: true });
    const end = () => {
      process.off("exit", die);
      signal?.removeEventListener("abort", die);
    };
    child.stdout.on("data", (piece: Buffer) => out.push(piece));
    child.stderr.on("data", (piece: Buffer) => words.push(piece));
    // A child that died has told why on its way out; that its input broke off says nothing more.
    child.stdin.on("error", () => undefined);
    child.stdin.end(input);
    child.on("error", () => {
      end();
      resolve(null);
    });
    child.on("close", (code, killed) => {
      end();
      if (signal?.aborted) reject(signal.reason);
      else
        resolve({
          code: killed ?? code,
          out: Buffer.concat(out),
          words: Buffer.concat(words).toString().trim().split("\n").pop() ?? "",
        });
    });
  });
}
