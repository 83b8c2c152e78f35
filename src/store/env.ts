/** What the processes are told by the one that started them, checked before use. */
import * as z from "zod";

const folders = z
  .string()
  .default("[]")
  .transform((text) => z.array(z.string().startsWith("/")).parse(JSON.parse(text)));

const schema = z.object({
  ZUMBREL_DATA: z.string().min(1),
  ZUMBREL_DATABASE: z.string().startsWith("postgres://"),
  ZUMBREL_PORT: z.coerce.number().int().min(1).max(65_535).default(4710),
  ZUMBREL_OUT_ROOTS: folders,
  ZUMBREL_WATCH_ROOTS: folders,
  ZUMBREL_LOG: z.enum(["debug", "info", "warn", "error", "silent"]).default("info"),
});

export interface Environment {
  dataDir: string;
  database: string;
  port: number;
  /** Folders of this machine that files may be put into. */
  outRoots: string[];
  /** Folders of this machine that may be watched. */
  watchRoots: string[];
  logLevel: string;
}

export function readEnvironment(): Environment {
  const parsed = schema.safeParse(process.env);
  if (!parsed.success) {
    const keys = parsed.error.issues.map((issue) => issue.path.join(".")).join(", ");
    throw new Error(`The environment lacks or has wrong ${keys}. Start Zumbrel with bin/zumbrel start.`);
  }
  const { data } = parsed;
  return {
    dataDir: data.ZUMBREL_DATA,
    database: data.ZUMBREL_DATABASE,
    port: data.ZUMBREL_PORT,
    outRoots: data.ZUMBREL_OUT_ROOTS,
    watchRoots: data.ZUMBREL_WATCH_ROOTS,
    logLevel: data.ZUMBREL_LOG,
  };
}
