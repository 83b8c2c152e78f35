/** The doors of the counter's receivers: plain HTTP, beside Next, so that a receiver can also hang up. */
import type { IncomingMessage, ServerResponse } from "node:http";
import { route } from "./answer";
import { answerTo, CutOff, takeFile } from "./counter-desk";

const DOOR = /^\/counter\/([0-9a-f-]{36})\/(files|done)(?:\?|$)/;

/** Serves what is meant for a receiver; null for every other request. */
export function atDoor(request: IncomingMessage, response: ServerResponse): Promise<void> | null {
  const door = request.method === "POST" ? DOOR.exec(request.url ?? "") : null;
  return door && serve(door[1], door[2], request, response);
}

async function serve(
  id: string,
  what: string,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const query = new URL(request.url ?? "/", "http://127.0.0.1").searchParams;
  // A request that broke off has none any more.
  const { socket } = request;
  let cut = false;
  const answer = await route(async () => {
    try {
      return await (what === "files" ? takeFile(id, query, request) : answerTo(id, query));
    } catch (error) {
      cut = error instanceof CutOff;
      throw error;
    }
  })(new Request("http://127.0.0.1/"), { params: Promise.resolve({}) });
  if (cut) return void socket.destroy();
  // What is left of a body that was refused is read and thrown away, so that the sender hears the answer.
  request.resume();
  response.writeHead(answer.status, Object.fromEntries(answer.headers));
  response.end(await answer.text());
}
