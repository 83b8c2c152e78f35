/**
 * The rules of the simulated receivers: what each asks, and how it behaves. All invented; all can be changed.
 */
import * as z from "zod";

const side = z.int().min(1).max(60_000);
const bytes = z
  .int()
  .min(1)
  .max(2 ** 40);
const title = z.string().trim().min(1).max(80);

/** File types as receivers write them. */
export const TYPE_NAMES = { jpeg: "JPEG", png: "PNG", tiff: "TIFF", pdf: "PDF", webp: "WebP" } as const;
export type FileType = keyof typeof TYPE_NAMES;
export const typeWords = (types: readonly FileType[]): string =>
  types.map((one) => TYPE_NAMES[one]).join(" or ");

/** How a receiver behaves when files are handed over. */
export const moods = z.enum(["ready", "slow", "closes"]);
export type Mood = z.infer<typeof moods>;

export const slotSchema = z
  .strictObject({
    /** What the form calls it in its data. */
    key: z.string().regex(/^[a-z][a-z0-9-]{0,30}$/, "small letters, digits and hyphens"),
    title,
    formats: z
      .array(z.enum(["jpeg", "png", "pdf"]))
      .min(1)
      .max(3),
    /** Exact pixels; null leaves them free. A PDF has none. */
    pixels: z.strictObject({ width: side, height: side }).nullable(),
    /** In kilobytes of 1000 bytes, inclusive. */
    floor: z.number().min(0).max(100_000).nullable(),
    ceiling: z.number().min(1).max(100_000).nullable(),
    /** The ceiling that it really holds to, where its page does not tell; null: the published one. */
    untold: z.number().min(1).max(100_000).nullable().default(null),
    /** A PDF's page, in millimetres, either way up; null takes any. */
    page: z
      .strictObject({ width: z.number().min(1).max(5000), height: z.number().min(1).max(5000) })
      .nullable(),
    /** Black ink on white paper. */
    ink: z.boolean(),
    /** Further rules that no machine can check. */
    person: z.array(z.string().trim().min(1).max(300)).max(6),
  })
  .refine((slot) => slot.floor === null || slot.ceiling === null || slot.floor <= slot.ceiling, {
    message: "the floor lies above the ceiling",
    path: ["floor"],
  });
export type Slot = z.infer<typeof slotSchema>;

const common = { name: title, mood: moods };

export const formRules = z.strictObject({
  kind: z.literal("form"),
  ...common,
  slots: z.array(slotSchema).min(1).max(8),
});
export const mailboxRules = z.strictObject({
  kind: z.literal("mailbox"),
  ...common,
  address: z
    .string()
    .regex(/^[a-z0-9._-]{1,60}@[a-z0-9.-]{1,60}$/, "an address such as records@moths.example"),
  limit: bytes,
});
export const printRules = z.strictObject({
  kind: z.literal("print"),
  ...common,
  /** Paper, in millimetres, turned with the picture. */
  width: z.number().min(5).max(5000),
  height: z.number().min(5).max(5000),
  ppi: z.number().min(10).max(2400),
  formats: z
    .array(z.enum(["jpeg", "png", "tiff", "pdf"]))
    .min(1)
    .max(4),
});
export const wallRules = z.strictObject({
  kind: z.literal("wall"),
  ...common,
  width: side,
  height: side,
  memory: bytes,
  formats: z
    .array(z.enum(["jpeg", "png", "webp"]))
    .min(1)
    .max(3),
});

export const rulesSchema = z.discriminatedUnion("kind", [formRules, mailboxRules, printRules, wallRules]);
export type Rules = z.infer<typeof rulesSchema>;
export type FormRules = z.infer<typeof formRules>;
export type MailboxRules = z.infer<typeof mailboxRules>;
export type PrintRules = z.infer<typeof printRules>;
export type WallRules = z.infer<typeof wallRules>;

/** The receivers of the made-up world. */
export const RECEIVERS: readonly Rules[] = [
  {
    kind: "form",
    name: "Night-trapping permit",
    mood: "ready",
    slots: [
      {
        key: "portrait",
        title: "Portrait",
        formats: ["jpeg"],
        pixels: { width: 240, height: 300 },
        floor: 24,
        ceiling: 60,
        untold: null,
        page: null,
        ink: false,
        person: ["A recent picture, in front of a plain light background."],
      },
      {
        key: "signature",
        title: "Signature",
        formats: ["jpeg"],
        pixels: { width: 260, height: 110 },
        floor: 9,
        ceiling: 18,
        untold: null,
        page: null,
        ink: true,
        person: ["Sign in person, with your own hand."],
      },
      {
        key: "address",
        title: "Proof of address",
        formats: ["pdf"],
        pixels: null,
        floor: null,
        ceiling: 480,
        untold: null,
        page: { width: 210, height: 297 },
        ink: false,
        person: ["Not older than three months."],
      },
    ],
  },
  {
    kind: "mailbox",
    name: "County moth recorder",
    mood: "ready",
    address: "records@moths.example",
    limit: 6_800_000,
  },
  {
    kind: "print",
    name: "Heather & Bell, printers",
    mood: "ready",
    width: 120,
    height: 90,
    ppi: 240,
    formats: ["jpeg", "tiff", "pdf"],
  },
  {
    kind: "wall",
    name: "Wall screen in the hut",
    mood: "ready",
    width: 1360,
    height: 800,
    memory: 12_000_000,
    formats: ["jpeg"],
  },
];
