/** Calls to the server. */
export class ServerError extends Error {
  /** `passing`: the server, or its database, is being started again. */
  constructor(
    message: string,
    readonly passing = false,
  ) {
    super(message);
  }
}

export async function call<T>(
  method: "GET" | "POST" | "PUT" | "DELETE",
  path: string,
  body?: unknown,
): Promise<T> {
  const options: RequestInit = { method };
  if (body !== undefined)
    Object.assign(options, { body: JSON.stringify(body), headers: { "content-type": "application/json" } });
  let response: Response;
  try {
    response = await fetch(`/api/${path}`, options);
  } catch {
    throw new ServerError("Zumbrel does not answer. Is it still running where it was started?", true);
  }
  const value: unknown = await response.json().catch(() => null);
  if (response.ok) return value as T;
  const error =
    typeof value === "object" && value !== null && "error" in value
      ? String(value.error)
      : `The server answered ${response.status}.`;
  throw new ServerError(error, response.status === 503);
}
