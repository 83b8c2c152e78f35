/** Messages, read back by a parser that has nothing to do with the composer, and counted against RFC 2045. */
import { randomBytes } from "node:crypto";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import JSZip from "jszip";
import { extract } from "letterparser";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  base64Bytes,
  fileBytesWithin,
  secondsWords,
  sendSeconds,
  splitIntoMessages,
} from "@/core/delivery/mail";
import { composeMail, type MailFile } from "@/delivery";
import { HEADERS_TO_COME, mailOverhead } from "@/delivery/mail";

let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), "zumbrel-mail-"))));
afterAll(() => rm(folder, { recursive: true, force: true }));

async function read(stream: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const pieces: Uint8Array[] = [];
  for await (const piece of stream) pieces.push(piece);
  return Buffer.concat(pieces);
}

async function filesOf(sizes: Record<string, number>): Promise<(MailFile & { content: Buffer })[]> {
  return Promise.all(
    Object.entries(sizes).map(async ([name, bytes], i) => {
      const content = randomBytes(bytes);
      const path = join(folder, String(i));
      await writeFile(path, content);
      return { name, type: "image/jpeg", bytes, content, from: { path } };
    }),
  );
}

const SIZES = {
  "IMG_0001.JPG": 120_000,
  "moor at dusk.jpg": 57,
  "Zähler-Ünit 3.jpeg": 40_001,
  "夜の蛾.jpg": 1,
  [`${"long name ".repeat(12)}.jpg`]: 76_000,
};

describe("the size of a message", () => {
  it("is 4/3 × 78/76 of the files, after RFC 2045 (76 characters a line, and CRLF)", () => {
    for (const bytes of [57_000, 1_000_000, 3_000_000])
      expect(base64Bytes(bytes) / ((bytes * 4) / 3) / (78 / 76)).toBeCloseTo(1, 4);
    expect([0, 1, 57, 58].map(base64Bytes)).toEqual([0, 4, 76, 82]);
  });

  it("is what Node's own base64 with line breaks takes", () => {
    for (const bytes of [1, 2, 3, 56, 57, 58, 113, 114, 115, 9999]) {
      const lines = randomBytes(bytes)
        .toString("base64")
        .match(/.{1,76}/g)!;
      expect(base64Bytes(bytes)).toBe(lines.join("\r\n").length);
    }
  });

  it("goes back to the bytes of files that it leaves", () => {
    for (const encoded of [4, 76, 82, 10_000, 2_999_999]) {
      const bytes = fileBytesWithin(encoded);
      expect(base64Bytes(bytes)).toBeLessThanOrEqual(encoded);
      expect(base64Bytes(bytes + 1)).toBeGreaterThan(encoded);
    }
  });

  it("takes so long to send", () => {
    // 5 MB over 2 megabits a second: 40 million bits at 2 million a second.
    expect(sendSeconds(5_000_000, 2)).toBe(20);
    expect([0.4, 19.2, 100, 4000].map(secondsWords)).toEqual([
      "under a second",
      "20 s",
      "2 min",
      "1 h 7 min",
    ]);
  });
});

describe.each(["separate", "zip"] as const)("a message with %s attachments", (as) => {
  it("is as long as was foretold, and every picture comes out byte for byte under its name", async () => {
    const files = await filesOf(SIZES);
    const task = { subject: "Trap night, 14 May: pictures", files, as, n: 2, of: 3 };
    const { bytes, stream } = await composeMail(task);
    const eml = await read(stream);
    expect(eml.length).toBe(bytes);
    const counted =
      (await mailOverhead(task)) + files.reduce((sum, file) => sum + base64Bytes(file.bytes), 0);
    expect(eml.length).toBeLessThanOrEqual(counted - HEADERS_TO_COME);
    const message = extract(eml.toString("latin1"));
    expect(message.subject).toBe("Trap night, 14 May: pictures (2 of 3)");
    const attached = message.attachments!.map(({ filename, body }) => ({
      name: filename!,
      body: Buffer.from(body as Uint8Array),
    }));
    if (as === "separate") {
      expect(attached.map((one) => one.name)).toEqual(Object.keys(SIZES));
      attached.forEach((one, i) => expect(one.body.equals(files[i].content)).toBe(true));
      return;
    }
    expect(attached.map((one) => one.name)).toEqual(["pictures.zip"]);
    const zip = await JSZip.loadAsync(attached[0].body, { checkCRC32: true });
    expect(Object.keys(zip.files)).toEqual(Object.keys(SIZES));
    for (const file of files)
      expect((await zip.file(file.name)!.async("nodebuffer")).equals(file.content)).toBe(true);
  });

  it("has no line longer than RFC 5322 allows, and CRLF only", async () => {
    const eml = await read(
      (await composeMail({ subject: "x", files: await filesOf(SIZES), as, n: 1, of: 1 })).stream,
    );
    const text = eml.toString("latin1");
    for (const line of text.split("\r\n")) expect(line.length).toBeLessThanOrEqual(998);
    expect(/[\r\n]/.test(text.replaceAll("\r\n", ""))).toBe(false);
  });
});

describe("several messages", () => {
  it("keep the order, and are as few as hold", () => {
    expect(splitIntoMessages([4, 4, 4, 4], 8)).toEqual([
      { files: [0, 1], bytes: 8 },
      { files: [2, 3], bytes: 8 },
    ]);
    // In order it would take three; the sum fits two.
    expect(splitIntoMessages([5, 6, 3, 2], 8)!.map((parcel) => parcel.bytes)).toEqual([8, 8]);
    expect(splitIntoMessages([9], 8)).toBeNull();
    expect(splitIntoMessages([], 8)).toEqual([]);
  });
});
