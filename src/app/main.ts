/** The web process: routes and Next's pages behind a guard that answers only to this machine's own addresses. */

import { createServer } from "node:http";
import { setTimeout } from "node:timers/promises";
import next from "next";
import { troubleOf } from "@/core/photo";
import { warmUpFacts } from "@/imaging";
import { makeLog, openStore, readEnvironment } from "@/store";
import { breakOff } from "@/store/queries";
import { ROUTES } from "./routes";
import { apiOf, atDoor, faultOf, getStore, refusalOf, serveFrom, startMailbox } from "./server";

const environment = readEnvironment();
const { port, logLevel } = environment;
const log = makeLog("web", logLevel);
serveFrom(openStore(environment));
const atApi = apiOf(ROUTES);
const app = next({ dev: false, dir: process.cwd(), hostname: "127.0.0.1", port });
await app.prepare();
const handle = app.getRequestHandler();

const server = createServer((request, response) => {
  const refused = refusalOf(request.headers, port);
  const fault = refused === null ? faultOf(request.method, request.url) : { status: 403, words: refused };
  if (fault) {
    response.writeHead(fault.status, { "content-type": "application/json", connection: "close" });
    response.end(JSON.stringify({ error: fault.words }));
    request.resume();
    return;
  }
  response.setHeader("x-content-type-options", "nosniff");
  response.setHeader("referrer-policy", "no-referrer");
  response.setHeader(
    "content-security-policy",
    "default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; script-src " +
      "'self' 'unsafe-inline' 'wasm-unsafe-eval'; frame-ancestors 'none'",
  );
  const served = atDoor(request, response) ?? atApi(request, response) ?? handle(request, response);
  served.catch((error: unknown) => {
    log.error({ err: error }, "a request failed");
    if (!response.headersSent) response.writeHead(500);
    response.end();
  });
});
// Large photos over slow links take longer than Node's usual five minutes; bodies have a pace to keep instead.
server.requestTimeout = 0;
server.headersTimeout = 15_000;
// A line that is closed at the very moment when it is used again gives an error that nobody understands.
server.keepAliveTimeout = 60_000;
// A line on which nothing at all moves; event streams beat every 15 s.
server.setTimeout(180_000);
// Nothing here speaks another protocol.
server.on("upgrade", (_request, socket) =>
  socket.end("HTTP/1.1 426 Upgrade Required\r\nconnection: close\r\ncontent-length: 0\r\n\r\n", () =>
    socket.destroy(),
  ),
);
const mailbox = await onceThere(async () => {
  await breakOff(
    getStore().db,
    "Zumbrel was stopped in the middle of it. Try again; what has arrived is not sent twice.",
  );
  return startMailbox(port);
});
warmUpFacts();
server.listen(port, "127.0.0.1", () => process.send?.("ready"));

/** The database may be started at the same time, or again: then it is waited for. */
async function onceThere<T>(work: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (troubleOf(error) !== "database") throw error;
      await setTimeout(500);
    }
  }
}

function stop(): void {
  void mailbox.close();
  server.close(() => process.exit(0));
  server.closeAllConnections();
  void setTimeout(1500, null, { ref: false }).then(() => process.exit(0));
}

process.on("SIGTERM", stop);
process.on("SIGINT", () => undefined);
process.on("disconnect", stop);
