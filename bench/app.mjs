// Starts the whole application on a data folder of its own, asks it as a page does, and makes photos for it.
import { spawn } from "node:child_process";
import { setTimeout as pause } from "node:timers/promises";
import sharp from "sharp";
import { root } from "./load.mjs";

/** `said`: is given every line that the launcher prints. `more`: further words of the command. */
export async function begin(dataDir, said = () => undefined, more = []) {
  const app = spawn("bin/zumbrel", ["start", "--empty", ...more], {
    cwd: root,
    env: { ...process.env, ZUMBREL_DATA: dataDir, ZUMBREL_LOG: "silent" },
    stdio: ["ignore", "pipe", "pipe"],
  });
  const address = await new Promise((resolve, reject) => {
    let text = "";
    const read = (piece) => {
      text += piece;
      said(String(piece).trim());
      const found = /Zumbrel is at (\S+)/.exec(text);
      if (found) resolve(found[1]);
    };
    app.stdout.on("data", read);
    app.stderr.on("data", read);
    app.on("exit", (code) => reject(new Error(`start ended with ${code}: ${text}`)));
  });
  const call = async (method, path, data) => {
    const binary = Buffer.isBuffer(data);
    const response = await fetch(`${address}/api/${path}`, {
      method,
      body: data === undefined ? undefined : binary ? data : JSON.stringify(data),
      headers: { "content-type": binary ? "application/octet-stream" : "application/json" },
      signal: AbortSignal.timeout(60_000),
    });
    return { status: response.status, body: await response.json().catch(() => null) };
  };
  /** Somebody who presses again where an answer did not come. */
  const insist = async (...request) => {
    for (;;) {
      const answer = await call(...request).catch(() => null);
      if (answer && answer.status < 500) return answer;
      await pause(300);
    }
  };
  /** A run can begin once what it needs is settled. */
  const run = async (batch, how = {}) => {
    for (;;) {
      const { status } = await insist("POST", `batches/${batch}/runs`, how);
      if (status === 200) return;
      await pause(500);
    }
  };
  const stop = async () => {
    const ended = new Promise((done) => app.once("exit", done));
    app.kill("SIGTERM");
    await ended;
  };
  return { address, call, insist, run, stop };
}

/** A made-up photo of 4 : 3; each `n` is another. */
export const photo = (n, side = 1400) =>
  sharp({
    create: {
      width: side,
      height: (side * 3) / 4,
      channels: 3,
      background: "#787878",
      noise: { type: "gaussian", mean: 120, sigma: 30 + (n % 7) },
    },
  })
    .blur(1 + (n % 3))
    .jpeg({ quality: 90 })
    .toBuffer();
