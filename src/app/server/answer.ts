/** What all route handlers share: JSON in and out, errors as one sentence with the right status. */

import * as z from "zod";
import { BriefError } from "@/core/brief";
import { troubleOf } from "@/core/photo";
import { sentence } from "@/imaging/source";

/** A request that cannot be served, with its status. */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

const id = z.uuid();

export function checkId(value: string): string {
  if (!id.safeParse(value).success)
    throw new RequestError(404, "There is no such thing here. Go back to the Desk.");
  return value;
}

/** Errors that say that things are not as the caller thinks. */
const CONFLICTS: ReadonlySet<string> = new Set(["NotSharedError", "FileGoneError", "EditOrderError"]);

const DATABASE_AWAY =
  "The database is being started again; nothing was changed. This page comes back by itself.";

type Parameters = Record<string, string>;
interface Context {
  params: Promise<Parameters>;
}

/** Wraps a handler: its value becomes JSON, a Response stays, an error becomes { error }. */
export function route(handler: (request: Request, params: Parameters) => Promise<unknown>) {
  return async (request: Request, context: Context): Promise<Response> => {
    try {
      const value = await handler(request, await context.params);
      return value instanceof Response
        ? value
        : Response.json(value ?? { ok: true }, { headers: { "cache-control": "no-store" } });
    } catch (error) {
      return Response.json({ error: wordsOf(error) }, { status: statusOf(error) });
    }
  };
}

function statusOf(error: unknown): number {
  if (error instanceof RequestError) return error.status;
  if (error instanceof z.ZodError) return 400;
  const trouble = troubleOf(error);
  if (trouble === "disk") return 507;
  if (trouble === "database") return 503;
  const name = error instanceof Error ? error.name : "";
  if (name === "TooLargeError") return 413;
  if (CONFLICTS.has(name)) return 409;
  if (name === "PhotoError" || name === "ContainerError" || name === "BriefError" || name === "SheetError")
    return 422;
  return 500;
}

export function wordsOf(error: unknown): string {
  if (
    error instanceof RequestError ||
    error instanceof BriefError ||
    (error instanceof Error && (error.name === "TooLargeError" || CONFLICTS.has(error.name)))
  )
    return error.message;
  if (error instanceof z.ZodError)
    return `The request is wrong: ${error.issues[0].path.join(".")} ${error.issues[0].message}.`;
  const status = statusOf(error);
  if (status === 503) return DATABASE_AWAY;
  return status === 500 ? "Something went wrong here; nothing was changed. Try again." : sentence(error);
}

const MOST_BODY = 2_000_000;
/** A body of this kind comes at once; one that takes longer, in ms, is given up. */
const BODY_PATIENCE = 20_000;

/** Read no further than it may be long. */
async function textOf(request: Request): Promise<string> {
  if (!request.body) return "";
  const reader = request.body.getReader();
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  const late = setTimeout(() => void reader.cancel("late").catch(() => undefined), BODY_PATIENCE);
  const until = performance.now() + BODY_PATIENCE;
  try {
    for (let piece = await reader.read(); !piece.done; piece = await reader.read()) {
      pieces.push(piece.value);
      bytes += piece.value.length;
      if (bytes > MOST_BODY) throw new RequestError(413, "The request is too large.");
    }
  } finally {
    clearTimeout(late);
    if (bytes > MOST_BODY) await reader.cancel().catch(() => undefined);
  }
  if (performance.now() >= until) throw new RequestError(408, "The request came too slowly. Try again.");
  return Buffer.concat(pieces).toString("utf8");
}

export async function readBody<T extends z.ZodType>(request: Request, schema: T): Promise<z.infer<T>> {
  const text = await textOf(request);
  // PostgreSQL has no room for this character in a text (its manual, 8.3).
  if (/\0|\\u0000/.test(text)) throw new RequestError(400, "The request holds a character of code 0.");
  let value: unknown;
  try {
    value = JSON.parse(text || "{}");
  } catch {
    throw new RequestError(400, "The request is not JSON.");
  }
  return schema.parse(value);
}

/** A download with a name that any browser understands (RFC 6266, RFC 8187). */
export function attachment(name: string): string {
  const plain = name.replace(/[^\x20-\x7e]|["\\]/g, "_");
  return (
    `attachment; filename="${plain}"; ` +
    `filename*=UTF-8''${encodeURIComponent(name).replace(/['()*]/g, (c) => `%${c.charCodeAt(0).toString(16)}`)}`
  );
}
