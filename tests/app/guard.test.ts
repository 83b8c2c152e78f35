import { setTimeout } from "node:timers/promises";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { attachment, checkId, faultOf, paced, RequestError, readBody, refusalOf, route } from "@/app/server";
import { TooLargeError } from "@/store/file-store";

describe("the guard", () => {
  const port = 4710;
  it.each(["127.0.0.1:4710", "localhost:4710", "[::1]:4710", "LOCALHOST:4710"])("answers as %s", (host) => {
    expect(refusalOf({ host }, port)).toBeNull();
    expect(refusalOf({ host, origin: `http://${host}` }, port)).toBeNull();
  });

  it.each([
    undefined,
    "",
    "localhost",
    "localhost:80",
    "127.0.0.1:47100",
    "127.0.0.1.example.org:4710",
    "rebound.example.org:4710",
    "192.168.0.7:4710",
  ])("refuses the host %s", (host) => {
    expect(refusalOf({ host }, port)).toMatch(/another host/);
  });

  it.each([
    "null",
    "http://example.org",
    "https://127.0.0.1:4710",
    "http://127.0.0.1:4711",
    "http://127.0.0.1:4710.example.org",
    "file://",
  ])("refuses the origin %s", (origin) => {
    expect(refusalOf({ host: "127.0.0.1:4710", origin }, port)).toMatch(/another site/);
  });
});

describe("answers", () => {
  const context = { params: Promise.resolve({}) };
  const answer = async (work: () => Promise<unknown>) => {
    const response = await route(work)(new Request("http://127.0.0.1/"), context);
    return { status: response.status, body: (await response.json()) as { error?: string } };
  };

  it("turn errors into one sentence with the right status, and never show internals", async () => {
    const fail = (error: unknown) => answer(() => Promise.reject(error));
    expect(await fail(new RequestError(409, "No."))).toEqual({ status: 409, body: { error: "No." } });
    expect((await fail(new TooLargeError(512 * 1024 * 1024))).status).toBe(413);
    expect(await fail(Object.assign(new Error("write"), { code: "ENOSPC" }))).toMatchObject({
      status: 507,
      body: { error: expect.stringMatching(/disk is full/) },
    });
    const hidden = await fail(new Error("select * from secrets"));
    expect(hidden.status).toBe(500);
    expect(hidden.body.error).not.toMatch(/select/);
  });

  it("name downloads for every browser", () => {
    expect(attachment("moth.jpg")).toBe(`attachment; filename="moth.jpg"; filename*=UTF-8''moth.jpg`);
    // RFC 8187: what is not a token character goes percent-encoded.
    expect(attachment(`dämmer"ung (1).jpg`)).toBe(
      `attachment; filename="d_mmer_ung (1).jpg"; filename*=UTF-8''d%C3%A4mmer%22ung%20%281%29.jpg`,
    );
    expect(() => checkId("../../etc")).toThrow(RequestError);
  });
});

describe("what comes in", () => {
  it("is refused by its method or its address before anybody looks", () => {
    expect(faultOf("GET", "/api/desk?x=%C3%A4")).toBeNull();
    expect(faultOf("TRACE", "/")).toMatchObject({ status: 405 });
    expect(faultOf("GET", "/api/batches/%")).toMatchObject({ status: 400 });
    expect(faultOf("POST", "/api/batches/x/photos?name=a%00b.jpg")).toMatchObject({ status: 400 });
  });

  it("is read no further than it may be long", async () => {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        sent += 65_536;
        controller.enqueue(new Uint8Array(65_536).fill(32));
      },
    });
    const request = new Request("http://127.0.0.1/", {
      method: "POST",
      body: endless,
      duplex: "half",
    } as RequestInit);
    await expect(readBody(request, z.unknown())).rejects.toMatchObject({ status: 413 });
    expect(sent).toBeLessThan(2_500_000);
  });

  it.each(['{"name":"a\\u0000b"}', '{"name":"a\0b"}'])("holds no character of code 0: %j", async (body) => {
    const request = new Request("http://127.0.0.1/", { method: "POST", body });
    await expect(readBody(request, z.unknown())).rejects.toMatchObject({ status: 400 });
  });

  it("has a pace to keep, and whoever writes it away may be slow", async () => {
    async function* trickle(pause: number) {
      for (let n = 0; n < 8; n += 1) {
        await setTimeout(pause);
        yield new Uint8Array(10);
      }
    }
    const read = async (stream: AsyncIterable<Uint8Array>, slow: number) => {
      let bytes = 0;
      for await (const piece of paced(stream, { bytes: 30, ms: 200 })) {
        bytes += piece.length;
        await setTimeout(slow);
      }
      return bytes;
    };
    expect(await read(trickle(1), 120)).toBe(80);
    await expect(read(trickle(150), 0)).rejects.toMatchObject({ status: 408 });
  });
});
