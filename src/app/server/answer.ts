/** What all route handlers share: JSON in and out, errors as one sentence with the right status. */

import { z } from "zod";
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

export async function readBody<T extends z.ZodType>(request: Request, schema: T): Promise<z.infer<T>> {
  const text = await request.text();
  if (text.length > 2_000_000) throw new RequestError(413, "The request is too large.");
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
