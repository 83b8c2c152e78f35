import { events } from "../../server";

export const dynamic = "force-dynamic";

/** What changes, as server-sent events; a comment now and then keeps the line open. */
export function GET(request: Request): Response {
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          close();
        }
      };
      const unsubscribe = events().subscribe((payload) => send(`data: ${payload}\n\n`));
      const beat = setInterval(() => send(": here\n\n"), 15_000);
      function close() {
        clearInterval(beat);
        unsubscribe();
      }
      request.signal.addEventListener("abort", close);
      send(": here\n\n");
    },
  });
  return new Response(body, {
    headers: { "content-type": "text/event-stream", "cache-control": "no-store", connection: "keep-alive" },
  });
}
