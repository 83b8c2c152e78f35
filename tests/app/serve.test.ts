/** Addresses under /api over a real line: who answers, with what, and that a sender who goes is noticed. */
import { readdirSync } from "node:fs";
import { createServer, get, type Server } from "node:http";
import { type AddressInfo, connect } from "node:net";
import { setTimeout } from "node:timers/promises";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ROUTES } from "@/app/routes";
import { apiOf, route } from "@/app/server";

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
