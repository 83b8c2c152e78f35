import { describe, expect, it } from "vitest";
import { attachment, checkId, RequestError, refusalOf, route } from "@/app/server";
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
