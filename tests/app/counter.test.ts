/** The counter through its routes and doors: rules, briefs, documents, hand-overs, ticks. */
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { eq } from "drizzle-orm";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { atDoor, startMailbox } from "@/app/server";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import type { FormRules, Mailbox, MailboxRules, Rules } from "@/receivers";
import { assignments, runItems } from "@/store";
import { arrivals, handovers } from "@/store/counter-schema";
import { breakOff, listRows } from "@/store/queries";
import { collectFiles } from "@/store/queries/storage";
import type { BroughtIn, CounterView, ReceiverView, RunDetail, ShelfBrief } from "@/ui/api";
import { signaturePhoto } from "../support/ink";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
let web: Server;
let mailbox: Mailbox;
const ids: Partial<Record<Rules["kind"], string>> = {};

beforeAll(async () => {
  routes = await startRoutes();
  web = createServer(
    (request, response) => void (atDoor(request, response) ?? response.writeHead(404).end()),
  );
  await new Promise<void>((done) => web.listen(0, "127.0.0.1", done));
  process.env.ZUMBREL_PORT = String((web.address() as AddressInfo).port);
  const { receivers } = (await ask<CounterView>("GET", "counter", {})).body;
  for (const { id, rules } of receivers) ids[rules.kind] = id;
  mailbox = await startMailbox(0);
});
afterAll(async () => {
  await mailbox.close();
  web.closeAllConnections();
  await new Promise((done) => web.close(done));
  await routes.close();
});

const ask = async <T>(
  method: string,
  path: string,
  params: Record<string, string>,
  body?: unknown,
  query = "",
): Promise<{ status: number; body: T & { error?: string } }> => {
  const response = await routes.raw(method, path, params, body, query);
  return { status: response.status, body: (await response.json()) as T & { error?: string } };
};
const receiver = async (kind: Rules["kind"]) =>
  (await ask<ReceiverView>("GET", "counter/[id]", { id: ids[kind]! })).body;
const change = async <R extends Rules>(kind: Rules["kind"], to: Partial<R>) =>
  ask("PUT", "counter/[id]", { id: ids[kind]! }, { rules: { ...(await receiver(kind)).rules, ...to } });

/** Makes whatever waits, as the worker would. */
async function work(): Promise<void> {
  for (const { id } of await routes.store.db
    .select({ id: assignments.id })
    .from(assignments)
    .where(eq(assignments.current, true)))
    await measure(routes.store, id);
  for (const item of await routes.store.db.select().from(runItems).where(eq(runItems.state, "waiting")))
    await make(routes.store, item.id);
}

/** Until a hand-over has ended. */
async function ended(id: string) {
  for (let i = 0; i < 200; i += 1) {
    const [row] = await routes.store.db.select().from(handovers).where(eq(handovers.id, id));
    if (row.state === "answered" || row.state === "failed") return row;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error("the hand-over did not end");
}

/** A finished run of two pictures. */
async function finished(name: string): Promise<string> {
  const batchId = await routes.newBatch(name, {
    "a.jpg": await jpegPhoto(900, 600, 71),
    "b.jpg": await jpegPhoto(600, 900, 72),
  });
  expect(
    (
      await ask(
        "PUT",
        "batches/[id]/brief",
        { id: batchId },
        {
          fresh: {
            zumbrelBrief: 1,
            name: "Small",
            format: ["jpeg"],
            longSide: { exact: 300 },
            onlyYou: ["Taken this year"],
          },
          words: "a brief",
        },
      )
    ).status,
  ).toBe(200);
  const { runId } = (await ask<{ runId: string }>("POST", "batches/[id]/runs", { id: batchId }, {})).body;
  await work();
  return runId;
}

describe("rules", () => {
  it("are published as wording, changed, and refused where they contradict themselves", async () => {
    const form = await receiver("form");
    expect(form.wording).toContain("Dimensions: 240 × 300 pixels");
    const slots = (form.rules as FormRules).slots;
    expect(
      (await change<FormRules>("form", { slots: [{ ...slots[0], floor: 90, ceiling: 20 }] })).status,
    ).toBe(400);
    expect((await change<FormRules>("form", { slots: [] })).status).toBe(400);
    expect(
      (await ask("PUT", "counter/[id]", { id: ids.form! }, { rules: (await receiver("wall")).rules })).body
        .error,
    ).toContain("stays one");
    expect((await ask("GET", "counter/[id]", { id: "0d4a0b9c-0000-4000-8000-000000000000" })).status).toBe(
      404,
    );
    expect(
      (
        await change<FormRules>("form", {
          slots: slots.map((slot) => (slot.key === "portrait" ? { ...slot, ceiling: 64 } : slot)),
        })
      ).status,
    ).toBe(200);
    expect((await receiver("form")).wording).toContain("24 KB to 64 KB");
  });

  it("become briefs on the shelf, one a document, named after both", async () => {
    const { names } = (await ask<{ names: string[] }>("POST", "counter/[id]/briefs", { id: ids.form! }, {}))
      .body;
    expect(names).toEqual([
      "Night-trapping permit: Portrait",
      "Night-trapping permit: Signature",
      "Night-trapping permit: Proof of address",
    ]);
    const { briefs } = (await ask<{ briefs: ShelfBrief[] }>("GET", "briefs", {})).body;
    expect(briefs.find((brief) => brief.body.name === names[1])!.body).toMatchObject({
      ink: "black",
      from: "Night-trapping permit",
      onlyYou: expect.arrayContaining(["Sign in person"]),
    });
    for (const kind of ["mailbox", "print", "wall"] as const)
      expect(
        (await ask<{ names: string[] }>("POST", "counter/[id]/briefs", { id: ids[kind]! }, {})).body.names,
      ).toHaveLength(1);
  });
});

describe("the documents of a form", () => {
  it("say what is missing, are made and handed over together, and are accepted", async () => {
    const { batchId } = (
      await ask<{ batchId: string }>("POST", "counter/[id]/package", { id: ids.form! }, {})
    ).body;
    expect((await ask("POST", "counter/[id]/package/handover", { id: ids.form! }, {})).body.error).toBe(
      "Still missing: Portrait, Signature, Proof of address.",
    );
    const fill = async (slot: string, name: string, bytes: Buffer) => {
      const { rows } = (
        await ask<BroughtIn>("POST", "batches/[id]/photos", { id: batchId }, bytes, `?name=${name}`)
      ).body;
      return ask("PUT", "counter/[id]/package", { id: ids.form! }, { slot, rowId: rows[0] });
    };
    const face = await jpegPhoto(900, 1200, 73);
    expect((await fill("portrait", "wrong.jpg", await jpegPhoto(500, 700, 74))).status).toBe(200);
    // Another one takes the place of the first, which stays without a document.
    expect((await fill("portrait", "face.jpg", face)).status).toBe(200);
    expect((await listRows(routes.store.db, batchId)).map(({ name, own }) => [name, own !== null])).toEqual([
      ["wrong.jpg", false],
      ["face.jpg", true],
    ]);
    // One photo may serve two documents, until another takes its place there.
    expect((await fill("signature", "again.jpg", face)).status).toBe(200);
    expect((await listRows(routes.store.db, batchId)).filter((row) => row.own)).toHaveLength(2);
    await fill("signature", "hand.jpg", await signaturePhoto());
    expect((await fill("nothing", "x.jpg", face)).status).toBe(404);
    const { photos } = (
      await ask<{ photos: { photoId: string; name: string }[] }>("GET", "counter/photos", {})
    ).body;
    expect(photos.map((photo) => photo.name)).toContain("hand.jpg");
    await fill("address", "letter.jpg", await jpegPhoto(1200, 1600, 75));
    const { id } = (await ask<{ id: string }>("POST", "counter/[id]/package/handover", { id: ids.form! }, {}))
      .body;
    await work();
    const row = await ended(id);
    expect(row.answer).toMatchObject({ accepted: true });
    const [arrival] = (await receiver("form")).arrivals;
    expect(arrival.files.map((file) => file.slot)).toEqual(["portrait", "signature", "address"]);
    const { sizes } = (
      await ask<{ sizes: { width: number; height: number }[] }>("GET", "counter/arrivals/[id]", {
        id: arrival.id,
      })
    ).body;
    expect(sizes[0]).toMatchObject({ width: 240, height: 300 });
    // A page is shown as the picture on it.
    const page = await routes.raw("GET", "counter/arrivals/[id]/file", { id: arrival.id }, undefined, "?n=2");
    expect(page.headers.get("content-type")).toBe("image/jpeg");
    expect((await sharp(Buffer.from(await page.arrayBuffer())).metadata()).format).toBe("jpeg");
  });
});

describe("handing over", () => {
  it("ends with a sentence where the line closes, goes on at the next try, and sends nothing twice", async () => {
    const runId = await finished("Broken off");
    await change("wall", { mood: "closes" });
    const { id } = (await ask<{ id: string }>("POST", "counter/[id]/handover", { id: ids.wall! }, { runId }))
      .body;
    const broken = await ended(id);
    expect(broken).toMatchObject({ state: "failed", tries: 1 });
    expect(broken.error).toMatch(
      /closed the line in the middle\. Try again; what has arrived is not sent twice\./,
    );
    await change("wall", { mood: "ready" });
    expect((await ask("POST", "counter/handovers/[id]", { id }, {})).status).toBe(200);
    const row = await ended(id);
    expect(row).toMatchObject({ state: "answered", tries: 2 });
    expect((await ask("POST", "counter/handovers/[id]", { id }, {})).status).toBe(409);
    const came = await routes.store.db.select().from(arrivals).where(eq(arrivals.receiverId, ids.wall!));
    expect(came).toHaveLength(1);
    expect(came[0].files.map((file) => file.name)).toEqual(["a.jpg", "b.jpg"]);
    // The same question again has the same answer.
    const again = await fetch(
      `http://127.0.0.1:${process.env.ZUMBREL_PORT}/counter/${ids.wall}/done?key=${id}`,
      { method: "POST" },
    );
    expect(await again.json()).toEqual(came[0].answer);
  });

  it("asks which file is which document where names do not tell", async () => {
    const runId = await finished("No names");
    expect((await ask("POST", "counter/[id]/handover", { id: ids.form! }, { runId })).body.error).toContain(
      "Choose them on the Counter",
    );
    const { files, slots } = (
      await ask<{ files: { itemId: string; name: string }[]; slots: Record<string, string> }>(
        "GET",
        "counter/[id]/run",
        { id: ids.form! },
        undefined,
        `?run=${runId}`,
      )
    ).body;
    expect(slots).toEqual({});
    const { id } = (
      await ask<{ id: string }>(
        "POST",
        "counter/[id]/handover",
        { id: ids.form! },
        { runId, slots: { portrait: files[0].itemId } },
      )
    ).body;
    const { answer } = await ended(id);
    expect(answer).toMatchObject({
      accepted: false,
      lines: [
        { about: "Portrait", words: expect.stringContaining("300 × 200 pixels, and 240 × 300") },
        { words: "is missing" },
        { words: "is missing" },
      ],
    });
  });

  it("to the mailbox is a message; one above the limit is returned, with its reason, and stands there", async () => {
    const runId = await finished("Mail");
    const send = async () =>
      ended(
        (await ask<{ id: string }>("POST", "counter/[id]/handover", { id: ids.mailbox! }, { runId })).body.id,
      );
    expect((await send()).answer).toMatchObject({ accepted: true });
    await change<MailboxRules>("mailbox", { limit: 9000 });
    expect((await send()).answer).toMatchObject({
      accepted: false,
      lines: [{ words: expect.stringContaining("552 message too large") }],
    });
    const [bounced, taken] = (await receiver("mailbox")).arrivals;
    expect(bounced.answer.words).toMatch(/^Returned to the sender/);
    expect(taken.files.map((file) => file.name)).toEqual(["a.jpg", "b.jpg"]);
    await change<MailboxRules>("mailbox", { limit: 6_800_000, mood: "closes" });
    const later = await send();
    expect(later).toMatchObject({ state: "failed" });
    await change<MailboxRules>("mailbox", { mood: "ready" });
    await ask("POST", "counter/handovers/[id]", { id: later.id }, {});
    expect((await ended(later.id)).answer).toMatchObject({ accepted: true });
  });

  it("that was under way when the process ended says so", async () => {
    const runId = await finished("Stopped");
    const [row] = await routes.store.db
      .insert(handovers)
      .values({ workspaceId: routes.workspaceId, receiverId: ids.print!, runId, state: "sending" })
      .returning();
    await breakOff(routes.store.db, "Zumbrel was stopped in the middle of it.");
    expect((await receiver("print")).handovers.find((one) => one.id === row.id)).toMatchObject({
      state: "failed",
      error: "Zumbrel was stopped in the middle of it.",
    });
  });

  it("keeps what arrived when files are collected", async () => {
    await collectFiles(routes.store, { grace: "0 seconds", young: "0 seconds", pauseMs: 0 });
    const [arrival] = (await receiver("wall")).arrivals;
    expect(
      (await routes.raw("GET", "counter/arrivals/[id]/file", { id: arrival.id }, undefined, "?n=0")).status,
    ).toBe(200);
  });

  it("refuses a door with a wrong key, no name, or an unknown receiver", async () => {
    const door = (path: string, body = "x") =>
      fetch(`http://127.0.0.1:${process.env.ZUMBREL_PORT}/counter/${path}`, { method: "POST", body });
    expect((await door(`${ids.form}/files?key=short&name=a`)).status).toBe(400);
    expect((await door(`${ids.form}/files?key=long-enough-key`)).status).toBe(400);
    expect((await door(`0d4a0b9c-0000-4000-8000-000000000000/files?key=long-enough-key&name=a`)).status).toBe(
      404,
    );
    expect((await door(`${ids.form}/done?key=nothing-came-here`)).status).toBe(422);
    expect((await door(`${ids.mailbox}/files?key=letters-come-by-mail&name=a.jpg`)).status).toBe(200);
    expect((await door(`${ids.mailbox}/done?key=letters-come-by-mail`)).status).toBe(400);
  });
});

describe("what only a person can check", () => {
  it("is ticked for a file, kept with the run, and can be taken back", async () => {
    const runId = await finished("Ticks");
    const detail = async () => (await ask<RunDetail>("GET", "runs/[id]", { id: runId })).body;
    const [item] = (await detail()).items;
    expect(item).toMatchObject({ onlyYou: ["Taken this year"], ticks: {} });
    const tick = (rule: string, on: boolean) =>
      ask("PUT", "runs/[id]/ticks", { id: runId }, { itemId: item.id, rule, on });
    expect((await tick("Taken this year", true)).status).toBe(200);
    expect((await detail()).items.map((one) => Object.keys(one.ticks))).toEqual([["Taken this year"], []]);
    expect((await tick("Something else", true)).status).toBe(404);
    await tick("Taken this year", false);
    expect((await detail()).items[0].ticks).toEqual({});
  });
});

describe("print sheets and pages of a run", () => {
  it("come as PDF, TIFF and numbered pages, and say what cannot be laid out", async () => {
    const runId = await finished("Sheets");
    const [one] = (await ask<RunDetail>("GET", "runs/[id]", { id: runId })).body.items;
    const task = {
      width: 100,
      height: 150,
      margin: 4,
      gap: 2,
      lines: "corners",
      mode: "fill",
      bleed: 0,
      copies: { [one.id]: 1 },
    };
    const print = (change: object, as: string) =>
      routes.raw(
        "GET",
        "runs/[id]/print",
        { id: runId },
        undefined,
        `?as=${as}&ppi=150&task=${encodeURIComponent(JSON.stringify({ ...task, ...change }))}`,
      );
    const pdf = await print({}, "pdf");
    expect(
      Buffer.from(await pdf.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe("%PDF-");
    const tiff = await sharp(Buffer.from(await (await print({}, "tiff")).arrayBuffer())).metadata();
    expect([tiff.width, tiff.height].sort((a, b) => a - b)).toEqual([591, 886]);
    const wrong = await print({ gap: 900 }, "pdf");
    expect(wrong.status).toBe(422);
    expect(((await wrong.json()) as { error: string }).error).toContain("larger than the sheet");
    expect((await print({ width: 1 }, "pdf")).status).toBe(400);
    expect(
      (await routes.raw("GET", "runs/[id]/print", { id: runId }, undefined, "?as=pdf&task=no")).status,
    ).toBe(400);
    const pages = await routes.raw("GET", "runs/[id]/pages", { id: runId }, undefined, "?as=pdf");
    expect(pages.headers.get("content-type")).toBe("application/pdf");
    const zip = await routes.raw("GET", "runs/[id]/pages", { id: runId }, undefined, "?as=zip");
    expect(Buffer.from(await zip.arrayBuffer()).includes("1-a.jpg")).toBe(true);
  });
});
