/** The simulated receivers: they judge by decoders of their own, and speak SMTP. */
import { connect } from "node:net";
import * as fc from "fast-check";
import nodemailer from "nodemailer";
import sharp from "sharp";
import { afterEach, describe, expect, it } from "vitest";
import type { Brief } from "@/core/brief";
import { readWording } from "@/core/brief/read";
import { fitPhoto } from "@/imaging";
import { readSource } from "@/imaging/source";
import {
  type Delivered,
  effectivePpi,
  type FormRules,
  judgeForm,
  judgePrint,
  judgeWall,
  type Mailbox,
  type MailboxRules,
  openMailbox,
  RECEIVERS,
  type Rules,
  rulesSchema,
  shownAt,
  slotWording,
  wordingOf,
} from "@/receivers";
import type { PrintRules, WallRules } from "@/receivers/rules";
import { signaturePhoto } from "./support/ink";
import { jpegPhoto } from "./support/photos";

const of = <K extends Rules["kind"]>(kind: K) =>
  RECEIVERS.find((rules) => rules.kind === kind) as Extract<Rules, { kind: K }>;
const form: FormRules = of("form");

async function made(brief: Brief, bytes: Buffer): Promise<Buffer> {
  const answer = await fitPhoto({ source: await readSource(bytes), brief });
  if (!answer.output) throw new Error(answer.error ?? "no file");
  return Buffer.from(answer.output);
}

describe("the published wording", () => {
  it("of each receiver is read into the very rules", () => {
    expect(RECEIVERS.map((rules) => rulesSchema.safeParse(rules).success)).toEqual([true, true, true, true]);
    const { briefs } = readWording(wordingOf(form));
    expect(briefs.map((brief) => brief.name)).toEqual(["Portrait", "Signature", "Proof of address"]);
    expect(briefs[1]).toMatchObject({
      format: ["jpeg"],
      width: { exact: 260 },
      height: { exact: 110 },
      fileSize: { min: "9KB", max: "18KB" },
      ink: "black",
    });
    expect(briefs[2]).toMatchObject({
      format: ["pdf"],
      paper: { width: "210mm", height: "297mm" },
      fileSize: { max: "480KB" },
    });
    expect(readWording(wordingOf(of("mailbox"))).briefs[0].total).toEqual({ max: "6.8MB", counted: "mail" });
    expect(readWording(wordingOf(of("print"))).briefs[0]).toMatchObject({
      paper: { width: "120mm", height: "90mm" },
      resolution: { min: "240ppi" },
    });
    expect(readWording(wordingOf(of("wall"))).briefs[0]).toMatchObject({
      box: { width: 1360, height: 800 },
      total: { max: "12MB" },
    });
  });

  it("of any document says what the form will look at", () => {
    const side = fc.integer({ min: 40, max: 3000 });
    void fc.assert(
      fc.property(
        side,
        side,
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 1, max: 400 }),
        fc.boolean(),
        (width, height, floor, more, ink) => {
          const [brief] = readWording(
            slotWording({
              key: "a",
              title: "Portrait",
              formats: ["jpeg"],
              pixels: { width, height },
              floor,
              ceiling: floor + more,
              untold: null,
              page: null,
              ink,
              person: [],
            }),
          ).briefs;
          expect(brief).toMatchObject({
            format: ["jpeg"],
            width: { exact: width },
            height: { exact: height },
            fileSize: { min: `${floor}KB`, max: `${floor + more}KB` },
          });
          expect(brief.ink).toBe(ink ? "black" : undefined);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe("the upload form", () => {
  const briefs = () => form.slots.map((slot) => readWording(slotWording(slot)).briefs[0]);

  it("accepts what its own wording led to", async () => {
    const [portrait, sign, address] = briefs();
    const files = [
      { slot: "portrait", name: "p.jpg", bytes: await made(portrait, await jpegPhoto(900, 1200, 41)) },
      { slot: "signature", name: "s.jpg", bytes: await made(sign, await signaturePhoto()) },
      { slot: "address", name: "a.pdf", bytes: await made(address, await jpegPhoto(1200, 1600, 42)) },
    ];
    const answer = await judgeForm(form, files, "QM-1");
    expect(answer.lines.map((line) => line.words)).toEqual(["accepted", "accepted", "accepted"]);
    expect(answer).toMatchObject({ accepted: true, receipt: "QM-1" });
  });

  it("refuses with its reasons: below the floor, wrong pixels, blue ink, wrong type, damage, a missing document", async () => {
    const [, sign] = briefs();
    const blue = await made({ ...sign, ink: "original" }, await signaturePhoto());
    const small = await sharp(await jpegPhoto(240, 300, 43))
      .jpeg({ quality: 20 })
      .toBuffer();
    const words = async (files: Parameters<typeof judgeForm>[1]) =>
      (await judgeForm(form, files, "QM-1")).lines.map((line) => line.words);
    const [first, second, third] = await words([
      { slot: "portrait", name: "p", bytes: small },
      { slot: "signature", name: "s", bytes: blue },
    ]);
    expect(first).toMatch(/less than the 24 KB/);
    // Common practice: blue ink is refused where black is asked.
    expect(second).toBe("refused: the ink is not black");
    expect(third).toBe("is missing");
    expect(
      (
        await words([
          {
            slot: "portrait",
            name: "p",
            bytes: await sharp(await jpegPhoto(250, 300, 44))
              .jpeg({ quality: 96 })
              .toBuffer(),
          },
        ])
      )[0],
    ).toMatch(/250 × 300 pixels, and 240 × 300/);
    expect(
      (
        await words([
          {
            slot: "portrait",
            name: "p",
            bytes: await sharp(await jpegPhoto(240, 300, 45))
              .png()
              .toBuffer(),
          },
        ])
      )[0],
    ).toMatch(/is a PNG, and JPEG is asked/);
    const cut = (await made(briefs()[0], await jpegPhoto(900, 1200, 46))).subarray(0, 26_000);
    expect((await words([{ slot: "portrait", name: "p", bytes: cut }]))[0]).toMatch(/cannot be opened/);
    expect((await words([{ slot: "portrait", name: "p", bytes: Buffer.from("hello") }]))[0]).toMatch(
      /no type that this form knows/,
    );
    expect(
      (
        await words([
          {
            slot: "signature",
            name: "s",
            bytes: await sharp({ create: { width: 260, height: 110, channels: 3, background: "#fff" } })
              .jpeg()
              .toBuffer(),
          },
        ])
      )[1],
    ).toMatch(/no ink on it/);
  });

  it("does not mind a border inside its pixels (common practice: a 1 px border does not change the pixel size)", async () => {
    const [portrait] = briefs();
    const bytes = await made(
      { ...portrait, border: { px: 1, colour: "#000000" } },
      await jpegPhoto(900, 1200, 47),
    );
    expect((await judgeForm(form, [{ slot: "portrait", name: "p", bytes }], "x")).lines[0].words).toBe(
      "accepted",
    );
  });
});

describe("print room and wall screen", () => {
  it("answer with the resolution that comes of the paper, turned with the picture", async () => {
    const rules: PrintRules = { ...of("print"), width: 101.6, height: 152.4, ppi: 300 };
    // 4 × 6 in: 1200 × 1800 px is 300 ppi either way up.
    expect(effectivePpi(rules, { width: 1200, height: 1800 })).toBeCloseTo(300, 6);
    expect(effectivePpi(rules, { width: 1800, height: 1200 })).toBeCloseTo(300, 6);
    const answer = await judgePrint(
      rules,
      [{ slot: null, name: "few.jpg", bytes: await jpegPhoto(600, 900, 48) }],
      "x",
    );
    expect(answer.accepted).toBe(false);
    expect(answer.lines[0].words).toMatch(/^150 ppi .* less than the 300/);
  });

  it("show a picture whole, and fill the memory in the order of coming", async () => {
    const rules: WallRules = { ...of("wall"), width: 1000, height: 500 };
    expect(shownAt(rules, { width: 2000, height: 500 })).toBe(0.5);
    const bytes = await jpegPhoto(800, 500, 49);
    const answer = await judgeWall(
      { ...rules, memory: bytes.length * 2 + 10 },
      ["a", "b", "c"].map((name) => ({ slot: null, name, bytes })),
      "x",
    );
    expect(answer.lines.map((line) => line.ok)).toEqual([true, true, false]);
    expect(answer.lines[2].words).toMatch(/^no room left/);
  });
});

describe("the mailbox, with a real client", () => {
  let open: Mailbox | null = null;
  afterEach(async () => {
    await open?.close();
    open = null;
  });

  async function box(change: Partial<MailboxRules> = {}) {
    const rules: MailboxRules = { ...of("mailbox"), limit: 300_000, ...change };
    const got = new Map<string, Delivered>();
    open = await openMailbox(
      {
        rules: async () => rules,
        deliver: async (message) => !got.has(message.key) && !!got.set(message.key, message),
      },
      0,
    );
    const transport = nodemailer.createTransport({
      host: "127.0.0.1",
      port: open.port,
      secure: false,
      ignoreTLS: true,
    });
    return { rules, got, transport, port: open.port };
  }
  const message = (rules: MailboxRules, photo: Buffer, id = "<one@quillmoor.example>") => ({
    from: "office@quillmoor.example",
    to: rules.address,
    subject: "Records",
    text: "Two pictures.\n",
    messageId: id,
    attachments: [{ filename: "a.jpg", content: photo }],
  });

  it("takes a message with its attachments, and the same one only once", async () => {
    const { rules, got, transport } = await box();
    const photo = await jpegPhoto(300, 200, 50);
    expect((await transport.sendMail(message(rules, photo))).response).toMatch(/^250 .*delivered/);
    expect((await transport.sendMail(message(rules, photo))).response).toMatch(/delivered before/);
    expect(got.size).toBe(1);
    const [one] = got.values();
    expect(one.files[0].name).toBe("a.jpg");
    expect(one.files[0].bytes.equals(photo)).toBe(true);
    expect(one).toMatchObject({ subject: "Records", answer: { accepted: true } });
  });

  it("announces its limit, refuses a larger size at once, and counts what comes where none was said", async () => {
    const { rules, got, transport, port } = await box({ limit: 20_000 });
    const talk = await dialogue(port, ["EHLO quillmoor.example"]);
    // RFC 1870: the keyword SIZE with the number of octets.
    expect(talk).toMatch(/250[- ]SIZE 20000\b/);
    const large = message(rules, Buffer.alloc(40_000, 7));
    expect(
      await dialogue(port, ["EHLO quillmoor.example", "MAIL FROM:<office@quillmoor.example> SIZE=60000"]),
    ).toMatch(/^552 /m);
    await expect(transport.sendMail(large)).rejects.toThrow(/552 message too large/);
    expect([...got.values()].every((one) => !one.answer.accepted)).toBe(true);
  });

  it("knows no other address, and says so", async () => {
    const { rules, transport } = await box();
    await expect(
      transport.sendMail({ ...message(rules, Buffer.from("x")), to: "someone@else.example" }),
    ).rejects.toThrow(/550/);
  });

  it("ends a call that sends a command without an end, and outlives nonsense", async () => {
    const { rules, transport, port, got } = await box();
    expect(await dialogue(port, ["EHLO a.example", "X".repeat(200_000)])).toMatch(
      /500 5\.5\.2 line too long|^$|500/,
    );
    expect(await dialogue(port, ["NONSENSE", "MAIL FROM:<<<>", "DATA"])).toMatch(/50\d/);
    expect(
      await dialogue(port, [
        "EHLO a.example",
        `MAIL FROM:<o@q.example>`,
        `RCPT TO:<${rules.address}>`,
        "DATA",
        "\u0000\u0001\r\n.",
      ]),
    ).toMatch(/250|554/);
    expect(
      (await transport.sendMail(message(rules, Buffer.from("still here"), "<two@quillmoor.example>")))
        .response,
    ).toMatch(/^250/);
    expect([...got.values()].some((one) => one.subject === "Records")).toBe(true);
  });
});

/** Lines sent one after the other, with what came back until the line was quiet. */
function dialogue(port: number, lines: string[]): Promise<string> {
  return new Promise((done) => {
    let heard = "";
    let at = 0;
    const socket = connect(port, "127.0.0.1");
    const finish = () => {
      socket.destroy();
      done(heard);
    };
    const quiet = setTimeout(finish, 8000);
    socket.on("data", (piece) => {
      heard += piece.toString("latin1");
      if (!/^\d{3} .*\r\n$/m.test(heard.split("\r\n").slice(-2).join("\r\n"))) return;
      if (at < lines.length) socket.write(`${lines[at++]}\r\n`);
      else {
        clearTimeout(quiet);
        finish();
      }
    });
    socket.on("error", () => undefined);
    socket.on("close", () => {
      clearTimeout(quiet);
      done(heard);
    });
  });
}
