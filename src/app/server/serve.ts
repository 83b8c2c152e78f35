/** Answers what is asked under /api: each address has a module with a handler a method. */
import type { IncomingMessage, ServerResponse } from "node:http";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { RequestError, route } from "./answer";

type Handler = (
  request: Request,
  context: { params: Promise<Record<string, string>> },
) => Response | Promise<Response>;
type Method = "GET" | "POST" | "PUT" | "DELETE";
export type Route = Partial<Record<Method, Handler>>;

interface Found {
  route: Route;
  params: Record<string, string>;
}

/**
 * `routes`: by address without "/api/", `[name]` for any one part. Where two fit, the one with the earlier
 * written part counts ("counter/photos" before "counter/[id]").
 */
export function apiOf(routes: Readonly<Record<string, Route>>) {
  const places = Object.entries(routes)
    .map(([address, route]) => ({ parts: address.split("/"), route }))
    .sort((a, b) => rank(a.parts).localeCompare(rank(b.parts)));
  const find = (asked: readonly string[]): Found | null => {
    for (const { parts, route } of places) {
      const params = paramsOf(parts, asked);
      if (params) return { route, params };
    }
    return null;
  };
  return (request: IncomingMessage, response: ServerResponse): Promise<void> | null => {
    // What does not begin so need not be an address at all ("//").
    if (!request.url?.startsWith("/api/")) return null;
    const url = new URL(request.url, "http://127.0.0.1");
    return serve(
      find(url.pathname.slice("/api/".length).split("/").map(decodeURIComponent)),
      url,
      request,
      response,
    );
  };
}

const rank = (parts: readonly string[]) => parts.map((part) => (part.startsWith("[") ? "1" : "0")).join("");

function paramsOf(parts: readonly string[], asked: readonly string[]): Record<string, string> | null {
  if (parts.length !== asked.length) return null;
  const params: Record<string, string> = {};
  for (const [i, part] of parts.entries()) {
    if (part.startsWith("[")) params[part.slice(1, -1)] = asked[i];
    else if (part !== asked[i]) return null;
  }
  return params;
}

const refuse = (status: number, words: string): Handler =>
  route(() => {
    throw new RequestError(status, words);
  });
const nothing = refuse(404, "There is no such thing here. Go back to the Desk.");

async function serve(
  found: Found | null,
  url: URL,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const asked = request.method === "HEAD" ? "GET" : (request.method as Method);
  const handler = found ? (found.route[asked] ?? refuse(405, `${asked} means nothing here.`)) : nothing;
  const gone = new AbortController();
  response.once("close", () => gone.abort());
  const answer = await handler(asWeb(url, request, gone.signal), {
    params: Promise.resolve(found?.params ?? {}),
  });
  // What is left of a body that was refused is read and thrown away, so that the sender hears the answer.
  if (!request.readableEnded) request.resume();
  response.writeHead(answer.status, Object.fromEntries(answer.headers));
  await send(answer, request.method === "HEAD", response);
}

/** Where the bodies of requests come from. */
const sources = new WeakMap<Request, IncomingMessage>();

/**
 * The body of a request, for those that are large: read from the line itself, since a stream of the web between costs
 * a promise and a queue for each piece. Once only, and not beside the request's own body.
 */
export const bodyOf = (request: Request): AsyncIterable<Uint8Array> | null =>
  sources.get(request) ?? request.body;

function asWeb(url: URL, request: IncomingMessage, signal: AbortSignal): Request {
  const { method } = request;
  const headers = Object.entries(request.headers).map(([name, value]): [string, string] => [
    name,
    String(value),
  ]);
  const hasBody = method !== "GET" && method !== "HEAD";
  const asked = new Request(url, {
    method,
    headers,
    signal,
    ...(hasBody && { body: whenRead(request), duplex: "half" }),
  } as RequestInit);
  if (hasBody) sources.set(asked, request);
  return asked;
}

/** Begins to read only when somebody reads it. */
function whenRead(source: AsyncIterable<Uint8Array>): ReadableStream<Uint8Array> {
  let pieces: AsyncIterator<Uint8Array> | null = null;
  return new ReadableStream(
    {
      async pull(out) {
        pieces ??= source[Symbol.asyncIterator]();
        const { done, value } = await pieces.next();
        if (done) out.close();
        else out.enqueue(value);
      },
      cancel: async () => void (await pieces?.return?.()),
    },
    { highWaterMark: 0 },
  );
}

async function send(answer: Response, headOnly: boolean, response: ServerResponse): Promise<void> {
  if (headOnly || !answer.body) {
    await answer.body?.cancel();
    response.end();
    return;
  }
  response.flushHeaders();
  try {
    await pipeline(Readable.fromWeb(answer.body as Parameters<typeof Readable.fromWeb>[0]), response);
  } catch (error) {
    // Whoever asked has gone: its own affair.
    if (!response.destroyed) throw error;
  }
}
