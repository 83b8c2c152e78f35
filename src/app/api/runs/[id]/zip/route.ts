import { Readable } from "node:stream";
import * as z from "zod";
import { attachment, getStore, getWorkspace, RequestError, requireRun, route } from "@/app/server";
import type { OutputFormat } from "@/core/brief";
import { type ManifestRow, manifestCsv, manifestJson } from "@/core/delivery/manifest";
import { MARKUP_FILE, markupFile, type SetFile } from "@/core/delivery/picture-set";
import { freeName, safeName, splitName } from "@/core/plan/names";
import { type ZipEntry, zipOf } from "@/delivery";
import { outputsOf } from "@/store/queries";

const query = z.object({
  of: z.enum(["files", "originals"]).default("files"),
  manifest: z.enum(["0", "1"]).default("0"),
});

type Output = Awaited<ReturnType<typeof outputsOf>>[number];

/**
 * All finished files of a run, streamed, with its size told beforehand. `originals`: the photos that they
 * were made
 * from, under the very names of the files, so that they can take their place.
 */
export const GET = route(async (request, { id }) => {
  const run = await requireRun(id);
  const { of, manifest } = query.parse(Object.fromEntries(new URL(request.url).searchParams));
  const { db, files } = getStore();
  const all = await outputsOf(db, await getWorkspace(), { runId: run.id });
  const outputs = of === "originals" ? oncePhoto(all) : all;
  if (!outputs.length)
    throw new RequestError(404, "This run has no files now: none is finished yet, or they were given up.");
  const shas = outputs.map((output) => (of === "originals" ? output.snapshot.sourceSha256 : output.sha256));
  const there = await Promise.all(shas.map((sha256) => files.has(sha256)));
  if (!there.every(Boolean))
    throw new RequestError(
      410,
      "Some of these files are not stored any more: their batch was removed a while ago. Bring the " +
        "photos in again.",
    );
  const entries: ZipEntry[] = [];
  const taken = (name: string) => entries.some((entry) => entry.name.toLowerCase() === name.toLowerCase());
  for (const [i, output] of outputs.entries())
    entries.push({
      // Photos of sets keep their own names, which two of them may share.
      name:
        of === "files"
          ? output.name
          : output.snapshot.part
            ? freeName(originalName(output), taken)
            : originalName(output),
      from: { path: files.path(shas[i]) },
    });
  const pictures = of === "files" ? setsOf(outputs) : [];
  if (pictures.length)
    entries.push({ name: freeName(MARKUP_FILE, taken), from: { bytes: Buffer.from(markupFile(pictures)) } });
  if (manifest === "1") {
    const rows = outputs.map(manifestRow);
    entries.push(
      { name: freeName("manifest.csv", taken), from: { bytes: Buffer.from(manifestCsv(rows)) } },
      { name: freeName("manifest.json", taken), from: { bytes: Buffer.from(manifestJson(run.title, rows)) } },
    );
  }
  const { bytes, stream } = await zipOf(entries);
  const name = `${safeName(run.title.split(" · ")[0])}${of === "originals" ? ", originals" : ""}.zip`;
  return new Response(Readable.toWeb(stream) as ReadableStream<Uint8Array>, {
    headers: {
      "content-type": "application/zip",
      "content-length": String(bytes),
      "content-disposition": attachment(name),
    },
  });
});

/** The pictures of a page, each with its files. */
function setsOf(outputs: Output[]): { files: SetFile[]; alt: string }[] {
  const sets = new Map<number, { files: SetFile[]; alt: string }>();
  for (const { name, snapshot, facts } of outputs) {
    if (!snapshot.part) continue;
    const one = sets.get(snapshot.n) ?? { files: [], alt: snapshot.alt ?? "" };
    const { width, height, bytes, format } = facts;
    one.files.push({ name, width, height, bytes, format: format as OutputFormat });
    sets.set(snapshot.n, one);
  }
  return [...sets.values()];
}

/** Of a set one is enough: its photo is the same for all. */
const oncePhoto = (outputs: Output[]): Output[] =>
  outputs.filter(
    ({ snapshot }, i) =>
      !snapshot.part || outputs.findIndex((other) => other.snapshot.n === snapshot.n) === i,
  );

/** The file's own name, with the ending that the original's bytes have. */
function originalName({ name, snapshot, facts }: Output): string {
  // What stands for a set has no name of its own.
  if (snapshot.part) return [snapshot.folder, safeName(snapshot.sourceName)].filter(Boolean).join("/");
  if (facts.format === snapshot.before.format) return name;
  const { ending } = splitName(snapshot.sourceName);
  const dot = name.lastIndexOf(".");
  return ending ? `${name.slice(0, dot)}.${ending}` : name.slice(0, dot);
}

const manifestRow = ({ name, snapshot, facts, checks, difference }: Output): ManifestRow => ({
  source: snapshot.sourceName,
  output: name,
  before: snapshot.before,
  after: facts,
  checks,
  difference,
});
