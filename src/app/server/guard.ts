/** Pages of other sites, and names that merely resolve to this machine, get no answer. */
import type { IncomingHttpHeaders } from "node:http";

/** A sentence where the request is to be refused; null where it is ours. */
export function refusalOf(
  headers: Pick<IncomingHttpHeaders, "host" | "origin">,
  port: number,
): string | null {
  const own = new Set([`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`]);
  if (!headers.host || !own.has(headers.host.toLowerCase())) {
    return `Zumbrel answers only at 127.0.0.1:${port}; this request was for another host.`;
  }
  if (
    headers.origin !== undefined &&
    !(headers.origin.startsWith("http://") && own.has(headers.origin.slice(7).toLowerCase()))
  ) {
    return "This request came from another site and was refused.";
  }
  return null;
}

const METHODS: ReadonlySet<string> = new Set(["GET", "HEAD", "POST", "PUT", "DELETE"]);

/** What is wrong with a request before anybody looks at what it asks for: its status and a sentence; else null. */
export function faultOf(
  method: string | undefined,
  url: string | undefined,
): { status: number; words: string } | null {
  if (!METHODS.has(method ?? "")) return { status: 405, words: `${method} means nothing here.` };
  try {
    const text = decodeURIComponent(url ?? "/");
    if (!text.includes("\0")) return null;
  } catch {
    // A "%" that begins no character.
  }
  return { status: 400, words: "The address is not written as addresses are." };
}
