/**
 * The coefficients of a JPEG as they are, packed again with Huffman tables of their own and in progressive order: nothing of
 * the picture changes. Done by jpegtran (Debian's libjpeg-turbo-progs), where it is installed.
 */
import { spawn } from "node:child_process";

/** Longer than any JPEG that is taken needs. */
const PATIENCE_MS = 60_000;

/** Null where jpegtran is missing or does not take the file. Headers stay. */
export function repackJpeg(bytes: Uint8Array, wanted?: () => void | Promise<void>): Promise<Uint8Array | null> {
  return new Promise((resolve, reject) => {
    const child = spawn("jpegtran", ["-copy", "all", "-optimize", "-progressive"], { stdio: ["pipe", "pipe", "ignore"] });
    const out: Buffer[] = [];
    let refused: unknown = null;
    const asking = setInterval(() => {
      void Promise.resolve()
        .then(() => wanted?.())
        .catch((error: unknown) => {
          refused ??= error;
          child.kill("SIGKILL");
        });
    }, 300);
    const patience = setTimeout(() => child.kill("SIGKILL"), PATIENCE_MS);
    const done = (answer: Uint8Array | null) => {
      clearInterval(asking);
      clearTimeout(patience);
      if (refused) reject(refused);
      else resolve(answer);
    };
    child.stdout.on("data", (piece: Buffer) => out.push(piece));
    child.stdin.on("error", () => undefined);
    child.stdin.end(bytes);
    child.on("error", () => done(null));
    child.on("close", (code) => done(code === 0 && out.length ? Buffer.concat(out) : null));
  });
}
