/**
 * inspect, read-brief, check, fit and watch: core and imaging alone, no database, no server. Each command is loaded
 * only when it is called, so that a small one does not wait for what a large one needs.
 */
import { sentence } from "@/imaging/source";
import { type Call, readCall } from "./args";

const HELP = `Zumbrel makes photos meet what a receiver asks for.

  zumbrel start [--port N] [--empty] [--workers N] [--out-root DIR] [--watch-root DIR]
                                               the web application
  zumbrel test                                 every test
  zumbrel inspect FILE... [--json]             the facts of each file
  zumbrel read-brief TEXT|- [--json]           a receiver's wording, read into briefs
  zumbrel check FILE... --brief B [--json]     a proof of existing files
  zumbrel fit PATH... --brief B --out DIR [--mail] [--json]
                                               files that meet a brief; with --mail also as messages
  zumbrel watch IN --brief B --out DIR         fits whatever comes to lie in the folder IN, until it is stopped

B is a brief file, the name of a brief that ships with Zumbrel, or - for standard input.
`;

async function run(call: Call): Promise<number> {
  switch (call.command) {
    case "inspect":
      return (await import("./inspect")).inspect(call);
    case "read-brief":
      return (await import("./read-brief")).readBrief(call);
    case "check":
      return (await import("./check")).check(call);
    case "fit":
      return (await import("./fit-command")).fit(call);
    case "watch":
      return (await import("./watch")).watch(call);
    default:
      process.stdout.write(HELP);
      return 0;
  }
}

/** Runs one call; the answer is the exit status of cli.md: 0 all meet, 1 some do not, 2 the call is wrong. */
async function main(argv: readonly string[]): Promise<number> {
  try {
    return await run(readCall(argv));
  } catch (error) {
    const message = sentence(error);
    if (argv.includes("--json")) process.stdout.write(`${JSON.stringify({ error: message })}\n`);
    else process.stderr.write(`zumbrel: ${message}\n`);
    return 2;
  }
}

// Who reads no further (`| head`) wants no more words.
process.stdout.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code !== "EPIPE") throw error;
  process.exit();
});
process.exitCode = await main(process.argv.slice(2));
