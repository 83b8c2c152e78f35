/** Addresses under /api over a real line: who answers, with what, and that a sender who goes is noticed. */
import { readdirSync } from "node:fs";
import { createServer, get, request as requestOf, type Server } from "node:http";
import { type AddressInfo, connect } from "node:net";
import { setTimeout } from "node:timers/promises";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ROUTES } from "@/app/routes";
import { apiOf, bodyOf, paced, RequestError, route } from "@/app/server";

let left = 0;
const api = apiOf({
  "things/[id]": {
    GET: route(async (request, params) => ({ params, query: new URL(request.url).search })),
    PUT: route(async (request) => ({
      body: await request.text(),
      kind: request.headers.get("content-type"),
    })),
  },
  "things/all": { GET: route(async () => "all") },
  "things/[id]/parts/[part]": { GET: route(async (_request, params) => params) },
  endless: {
    GET: (request: Request) =>
      new Response(
        new ReadableStream({
          start(controller) {
            request.signal.addEventListener("abort", () => (left += 1));
            controller.enqueue(new TextEncoder().encode("begun"));
          },
          cancel: () => void (left += 1),
        }),
      ),
  },
  "files/[limit]": {
    POST: route(async (request, { limit }) => {
      let bytes = 0;
      for await (const piece of paced(bodyOf(request)!, { bytes: 1000, ms: 200 })) {
        bytes += piece.length;
        if (bytes > Number(limit)) throw new RequestError(413, "Too large.");
      }
      return bytes;
    }),
  },
  broken: { GET: () => Promise.reject(new Error("broken")) },
});

let server: Server;
let address: string;

beforeAll(async () => {
  server = createServer((request, response) => {
    const served = api(request, response);
    if (!served) return void response.writeHead(418).end();
    served.catch(() => response.writeHead(500).end());
  });
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

const ask = (path: string, init?: RequestInit) => fetch(`${address}${path}`, init);

/** As it is written; whatever asks by an address would tidy it first. */
const statusOf = (path: string) =>
  new Promise((done, failed) => {
    const { port } = server.address() as AddressInfo;
    get({ port, host: "127.0.0.1", path }, (response) => {
      response.resume();
      done(response.statusCode);
    }).once("error", failed);
  });

/** Sends a body of `bytes` in pieces with a pause before each; what is answered, however it is answered. */
const sent = (path: string, { bytes, piece, pause }: { bytes: number; piece: number; pause: number }) =>
  new Promise<{ status: number; body: unknown }>((done, failed) => {
    const asked = requestOf(`${address}${path}`, { method: "POST", headers: { "content-length": bytes } });
    asked.flushHeaders();
    let over = false;
    asked.once("response", async (response) => {
      over = true;
      const text = (await response.setEncoding("utf8").toArray()).join("");
      asked.destroy();
      done({ status: response.statusCode!, body: JSON.parse(text) });
    });
    asked.on("error", (error) => {
      if (!over) failed(error);
    });
    void (async () => {
      for (let at = 0; at < bytes && !asked.destroyed; at += piece) {
        if (pause) await setTimeout(pause);
        if (!asked.write(Buffer.alloc(piece))) await new Promise((drained) => asked.once("drain", drained));
      }
      asked.end();
    })();
  });

describe("addresses under /api", () => {
  it("give a handler its parameters and the query; parts written out go before any part", async () => {
    expect(await (await ask("/api/things/a%20b?x=1")).json()).toEqual({
      params: { id: "a b" },
      query: "?x=1",
    });
    expect(await (await ask("/api/things/all")).json()).toBe("all");
    expect(await (await ask("/api/things/7/parts/9")).json()).toEqual({ id: "7", part: "9" });
  });

  it("bring the body and its headers", async () => {
    const answer = await ask("/api/things/1", {
      method: "PUT",
      body: "text",
      headers: { "content-type": "x/y" },
    });
    expect(await answer.json()).toEqual({ body: "text", kind: "x/y" });
  });

  it("take a file as it comes, and whoever sends too much or too slowly hears why", async () => {
    expect(await sent("/api/files/9000000", { bytes: 3_000_000, piece: 100_000, pause: 0 })).toEqual({
      status: 200,
      body: 3_000_000,
    });
    expect(await sent("/api/files/1000000", { bytes: 30_000_000, piece: 100_000, pause: 0 })).toEqual({
      status: 413,
      body: { error: "Too large." },
    });
    // Also who then says nothing more at all.
    for (const pause of [150, 60_000])
      expect(await sent("/api/files/1000000", { bytes: 2000, piece: 100, pause })).toMatchObject({
        status: 408,
      });
  }, 20_000);

  it("say in one sentence what is not there, and leave other addresses to others", async () => {
    for (const path of ["/api/nothing", "/api/things", "/api/things/1/parts", "/api/"]) {
      const answer = await ask(path);
      expect(answer.status, path).toBe(404);
      expect((await answer.json()).error).toBe("There is no such thing here. Go back to the Desk.");
    }
    expect((await ask("/api/things/1", { method: "DELETE" })).status).toBe(405);
    expect((await ask("/elsewhere")).status).toBe(418);
    expect(await statusOf("//")).toBe(418);
    expect(await statusOf("/api/../../elsewhere")).toBe(404);
    expect((await ask("/api/broken")).status).toBe(500);
  });

  it("answer HEAD as GET without its body (RFC 9110, 9.3.2)", async () => {
    const answer = await ask("/api/things/1", { method: "HEAD" });
    expect([answer.status, answer.headers.get("content-type"), await answer.text()]).toEqual([
      200,
      "application/json",
      "",
    ]);
  });

  it("notice that a reader of an endless answer has gone", async () => {
    const line = connect((server.address() as AddressInfo).port, "127.0.0.1");
    line.write("GET /api/endless HTTP/1.1\r\nhost: x\r\n\r\n");
    let text = "";
    for await (const piece of line) {
      text += piece;
      if (text.includes("begun")) break;
    }
    line.destroy();
    while (left < 2) await setTimeout(10);
  });

  it("are those of the folders", () => {
    const folders = readdirSync("src/app/api", { recursive: true, encoding: "utf8" })
      .filter((path) => path.endsWith("/route.ts"))
      .map((path) => path.slice(0, -"/route.ts".length));
    expect(Object.keys(ROUTES).sort()).toEqual(folders.sort());
  });
});
