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
