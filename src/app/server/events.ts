/** One listener on the database for all open pages. */
import pg from "pg";
import { readEnvironment } from "@/store";

type Listener = (payload: string) => void;

class Events {
  private readonly listeners = new Set<Listener>();
  private client: pg.Client | null = null;

  subscribe(listener: Listener): () => void {
    this.listeners.add(listener);
    if (!this.client) void this.connect();
    return () => this.listeners.delete(listener);
  }

  private async connect(): Promise<void> {
    const client = new pg.Client({ connectionString: readEnvironment().database });
    this.client = client;
    client.on("notification", ({ payload }) =>
      this.listeners.forEach((listener) => listener(payload ?? "{}")),
    );
    client.on("error", () => this.again(client));
    client.on("end", () => this.again(client));
    try {
      await client.connect();
      await client.query("listen zumbrel");
      // Whatever was announced while nobody listened: everything may have changed.
      this.listeners.forEach((listener) => listener("{}"));
    } catch {
      this.again(client);
    }
  }

  private again(client: pg.Client): void {
    if (this.client !== client) return;
    this.client = null;
    if (this.listeners.size) setTimeout(() => this.client ?? void this.connect(), 1000).unref();
  }
}

export const events = new Events();
