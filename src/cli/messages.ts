/**
 * `fit --mail`: the files as messages, each under the brief's limit, and the limit on the whole as a line of
 * every proof.
 */
import { createWriteStream } from "node:fs";
import { mkdir } from "node:fs/promises";
import { basename } from "node:path";
import { pipeline } from "node:stream/promises";
import { type Brief, resolveBrief } from "@/core/brief";
import { type Limit, totalCheck } from "@/core/budget";
import { safeName } from "@/core/plan/names";
import { formatBytes } from "@/core/units";
import { composeMail, type MailFile, messageBytes, parcelsOf, typeOf } from "@/delivery";
import { putAs } from "@/imaging/written";
import type { FitResult } from "./fit";

type Written = FitResult & { output: string };

const written = (results: readonly FitResult[]): Written[] =>
  results.filter((result): result is Written => result.output !== null);
const fileOf = ({ output, facts }: Written): MailFile => ({
  name: basename(output),
  type: typeOf(output),
  bytes: facts!.bytes,
  from: { path: output },
});

/** Adds the limit on the whole to the checks of every file that was written. */
export async function checkTotal(results: FitResult[], brief: Brief, limit: Limit): Promise<void> {
  const made = written(results);
  let found = made.reduce((sum, { facts }) => sum + facts!.bytes, 0);
  if (limit.counted === "mail" && made.length) {
    const parcels =
      limit.messages > 1 ? await parcelsOf(made.map(fileOf), brief.name, limit.max) : [made.map(fileOf)];
    found = Math.max(...(await Promise.all((parcels ?? []).map((files) => messageBytes(files, brief.name)))));
  }
  for (const result of made) {
    const check = totalCheck(limit, found);
    result.checks.push(check);
    if (!check.ok) {
      result.ok = false;
      result.error = `Together the files are too large: the total asked ${check.asked}, found ${check.found}.`;
    }
  }
}

export interface Messages {
  paths: string[];
  /** Of all messages. */
  bytes: number;
  /** Why no message could be written. */
  error: string | null;
}

/**
 * Writes the files that were made as `.eml` into the folder, as few as hold; never over a file that is there.
 */
export async function writeMessages(
  results: readonly FitResult[],
  brief: Brief,
  out: string,
): Promise<Messages> {
  const { total } = resolveBrief(brief);
  const max = total?.counted === "mail" ? total.max : Infinity;
  const files = written(results).map(fileOf);
  const parcels = await parcelsOf(files, brief.name, max);
  if (!parcels) {
    const largest = files.reduce((a, b) => (b.bytes > a.bytes ? b : a));
    return {
      paths: [],
      bytes: 0,
      error:
        `No message of ${formatBytes(max)} holds "${largest.name}" (${formatBytes(largest.bytes)}), so ` +
        "none was written. Raise the limit or ask for smaller files.",
    };
  }
  const paths: string[] = [];
  let bytes = 0;
  await mkdir(out, { recursive: true });
  for (const [i, parcel] of parcels.entries()) {
    const mail = await composeMail({
      subject: brief.name,
      files: parcel,
      as: "separate",
      n: i + 1,
      of: parcels.length,
    });
    const name =
      parcels.length > 1
        ? `${safeName(brief.name)} ${i + 1} of ${parcels.length}.eml`
        : `${safeName(brief.name)}.eml`;
    paths.push(
      await putAs(out, name, (temporary) =>
        pipeline(mail.stream, createWriteStream(temporary, { flags: "wx" })),
      ),
    );
    bytes += mail.bytes;
  }
  return { paths, bytes, error: null };
}
