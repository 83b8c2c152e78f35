import { request as http } from "node:http";
import { connect } from "node:net";
import { networkInterfaces } from "node:os";
import { expect, test } from "@playwright/test";
import { address } from "./support/desk";

function ask(
  headers: Record<string, string>,
  path = "/api/desk",
  method = "GET",
): Promise<{ status: number; body: string }> {
  const { hostname, port } = new URL(address());
  return new Promise((resolve, reject) => {
    const call = http({ hostname, port, path, method, headers }, (response) => {
      let body = "";
      response.on("data", (piece: Buffer) => (body += piece.toString()));
      response.on("end", () => resolve({ status: response.statusCode!, body }));
    });
    call.on("error", reject);
    call.end();
  });
}

const own = () => new URL(address()).host;

test("requests with a foreign Host or Origin are refused", async () => {
  expect((await ask({})).status).toBe(200);
  expect((await ask({ host: own().replace("127.0.0.1", "localhost") })).status).toBe(200);
  for (const host of ["example.org", "127.0.0.1:1", `evil.test:${new URL(address()).port}`])
    expect((await ask({ host })).status, host).toBe(403);
  for (const origin of ["http://example.org", "null", `https://${own()}`])
    expect((await ask({ host: own(), origin }, "/api/demo", "POST")).status, origin).toBe(403);
  expect((await ask({ host: own(), origin: address() })).status).toBe(200);
});

test("web and database listen on loopback only", async () => {
  const outside = Object.values(networkInterfaces())
    .flat()
    .find((i) => i && !i.internal && i.family === "IPv4")?.address;
  test.skip(!outside, "this machine has no other address");
  const reached = await new Promise<boolean>((resolve) => {
    const socket = connect({ host: outside!, port: Number(new URL(address()).port) });
    socket.once("connect", () => resolve(true));
    socket.once("error", () => resolve(false));
  });
  expect(reached).toBe(false);
});

test("wrong requests get a 4xx with one sentence", async ({ page }) => {
  const batch = await page.request.post(`${address()}/api/batches`, { data: { name: "Wrong" } });
  const { id } = (await batch.json()) as { id: string };
  const post = (path: string, data: unknown) =>
    page.request.fetch(`${address()}/api/${path}`, {
      method: path.endsWith("brief") || path.endsWith("frame") ? "PUT" : "POST",
      data: data as string,
    });
  const cases: [string, unknown, number, RegExp][] = [
    ["batches", { name: "" }, 400, /name/],
    ["batches", "{", 400, /not JSON/],
    [
      `batches/${id}/brief`,
      { brief: { zumbrelBrief: 1, name: "x", widht: 2 }, words: "w" },
      422,
      /unknown key "widht"/,
    ],
    [
      `batches/${id}/brief`,
      { brief: { zumbrelBrief: 1, name: "x", width: { min: 9, max: 3 } }, words: "w" },
      422,
      /min at or below max/,
    ],
    [`batches/${id}/runs`, {}, 409, /no photo in this batch/],
    ["batches/11111111-1111-4111-8111-111111111111/runs", {}, 404, /no longer there/],
    ["batches/nonsense/runs", {}, 404, /no such thing/],
    [`batches/${id}/photos?name=..%2F..%2Fevil.jpg`, "hello", 422, /text file/],
  ];
  for (const [path, data, status, words] of cases) {
    const response = await post(path, data);
    expect(response.status(), path).toBe(status);
    expect(((await response.json()) as { error: string }).error).toMatch(words);
  }
});

test("other protocols, methods and addresses are answered in order, and an upgrade does not stay open", async () => {
  const { hostname, port } = new URL(address());
  const upgraded = await new Promise<string>((resolve, reject) => {
    const socket = connect({ host: hostname, port: Number(port) });
    let text = "";
    socket.on("data", (piece) => (text += piece.toString()));
    socket.on("close", () => resolve(text));
    socket.on("error", reject);
    socket.write(
      "GET / HTTP/1.1\r\nhost: elsewhere.test\r\nconnection: upgrade\r\nupgrade: websocket\r\n\r\n",
    );
  });
  expect(upgraded).toMatch(/^HTTP\/1.1 426/);
  for (const [path, method, status] of [
    ["/api/desk", "TRACE", 405],
    ["/api/batches/%", "GET", 400],
    ["/api/nothing/of/this/kind", "GET", 404],
  ] as const) {
    const answer = await ask({ host: own() }, path, method);
    expect(answer.status, path).toBe(status);
    expect(JSON.parse(answer.body), path).toEqual({ error: expect.any(String) });
  }
});
