import { events } from "../../server";

const BEAT_MS = 15_000;
/** Said once to a page that reads slower than things change: everything may have changed. */
const ALL = "{}";

/** What changes, as server-sent events; a comment now and then keeps the line open. */
export function GET(request: Request): Response {
  const encoder = new TextEncoder();
  let behind = false;
  let close = () => undefined as void;
  const body = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const send = (text: string) => {
          try {
            controller.enqueue(encoder.encode(text));
          } catch {
            close();
          }
        };
        const room = () => (controller.desiredSize ?? 0) > 0;
        const unsubscribe = events.subscribe((payload) => {
          if (room()) send(`data: ${payload}\n\n`);
          else behind = true;
        });
        const beat = setInterval(() => room() && send(": here\n\n"), BEAT_MS);
        close = () => {
          clearInterval(beat);
          unsubscribe();
        };
        request.signal.addEventListener("abort", close);
        send(": here\n\n");
      },
      pull(controller) {
        if (!behind) return;
        behind = false;
        controller.enqueue(encoder.encode(`data: ${ALL}\n\n`));
      },
      cancel: () => close(),
    },
    new CountQueuingStrategy({ highWaterMark: 64 }),
  );
  return new Response(body, {
    headers: { "content-type": "text/event-stream", "cache-control": "no-store", connection: "keep-alive" },
  });
}
