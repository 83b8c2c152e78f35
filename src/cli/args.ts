/** The command line's words, read with Node's own parser. */
import { parseArgs } from "node:util";

export class CallError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "CallError";
  }
}

export type Call =
  | { command: "inspect"; paths: string[]; json: boolean }
  | { command: "check"; paths: string[]; brief: string; json: boolean }
  | { command: "fit"; paths: string[]; brief: string; out: string; mail: boolean; json: boolean }
  | { command: "watch"; folder: string; brief: string; out: string }
  | { command: "read-brief"; text: string; json: boolean }
  | { command: "help" };

const FLAGS: Record<string, readonly string[]> = {
  inspect: ["json"],
  check: ["json", "brief"],
  fit: ["json", "brief", "out", "mail"],
  watch: ["brief", "out"],
  "read-brief": ["json"],
};

/** `argv` without the program's name. Throws {@link CallError} with one sentence. */
export function readCall(argv: readonly string[]): Call {
  const [command, ...rest] = argv;
  if (command === undefined || command === "help" || command === "--help") return { command: "help" };
  const flags = FLAGS[command];
  if (!flags)
    throw new CallError(
      `There is no command "${command}". Use start, test, inspect, read-brief, check, fit or watch.`,
    );
  let parsed: ReturnType<typeof parseArgs>;
  try {
    parsed = parseArgs({
      args: rest,
      allowPositionals: true,
      options: Object.fromEntries(
        flags.map((f) => [
          f,
          { type: f === "json" || f === "mail" ? ("boolean" as const) : ("string" as const) },
        ]),
      ),
    });
  } catch (error) {
    throw new CallError(
      `${command}: ${error instanceof Error ? error.message.split(". ")[0] : String(error)}.`,
    );
  }
  const { values, positionals: paths } = parsed;
  const text = (name: string): string => {
    const value = values[name];
    if (typeof value !== "string" || value === "") throw new CallError(`${command} needs --${name}.`);
    return value;
  };
  const json = values.json === true;
  if (command === "read-brief") {
    if (paths.length !== 1)
      throw new CallError(
        `read-brief needs one text in quotes, or - for standard input; found ${paths.length} arguments.`,
      );
    return { command, text: paths[0], json };
  }
  if (command === "watch") {
    if (paths.length !== 1)
      throw new CallError(`watch needs one folder to look at; found ${paths.length} arguments.`);
    return { command, folder: paths[0], brief: text("brief"), out: text("out") };
  }
  if (!paths.length)
    throw new CallError(`${command} needs at least one file${command === "fit" ? " or folder" : ""}.`);
  if (command === "inspect") return { command, paths, json };
  if (command === "check") return { command, paths, brief: text("brief"), json };
  return { command: "fit", paths, brief: text("brief"), out: text("out"), mail: values.mail === true, json };
}
