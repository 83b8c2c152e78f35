/** A process that is given bytes and gives bytes back, and that can be killed. */
import { spawn } from "node:child_process";

export interface Ended {
  /** Exit code, or the signal that ended it. */
  code: number | string | null;
  out: Buffer;
  /** The last line of what it said on standard error. */
  words: string;
}

/** How often a running process asks whether it is still wanted. */
const ASK_MS = 300;

/**
 * `wanted` throws when nobody waits for the answer any more: the process is killed, and what was thrown is
 * thrown on. Null where there is no such program.
 */
export function pipeThrough(
  command: string,
  args: readonly string[],
  input: Uint8Array,
  wanted?: () => void | Promise<void>,
): Promise<Ended | null> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ["pipe", "pipe", "pipe"] });
    const out: Buffer[] = [];
    const words: Buffer[] = [];
    let refused: unknown = null;
    const die = () => child.kill("SIGKILL");
    const asking = setInterval(() => {
      void Promise.resolve()
        .then(() => wanted?.())
        .catch((error: unknown) => {
          refused ??= error;
          die();
        });
    }, ASK_MS);
    process.once("exit", die);
    const end = () => {
      clearInterval(asking);
      process.off("exit", die);
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
    child.on("close", (code, signal) => {
      end();
      if (refused) reject(refused);
      else
        resolve({
          code: signal ?? code,
          out: Buffer.concat(out),
          words: Buffer.concat(words).toString().trim().split("\n").pop() ?? "",
        });
    });
  });
}
