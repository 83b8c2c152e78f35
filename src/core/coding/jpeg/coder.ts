/**
 * JPEG files of one picture. Colour and transform are worked out once; each file then takes a quantisation and an
 * entropy coding. Written from ITU-T T.81; photographs and tables that made its choices: docs/decisions/0015.
 */
import { concat } from "../../containers";
import { ANNEX_K, type Chroma, type JpegSetting, USUAL_THRIFT } from "../types";
import { decodeLevels, type JpegPixels } from "./decode";
import { heaps } from "./heap";
import { Levels } from "./levels";
import { END, JFIF, quantisation, START } from "./markers";
import { weigh } from "./masks";
import { type JpegSamples, type Prepared, prepareJpeg } from "./prepare";
import { Scans } from "./scans";
import { annexKTables, type StepTables, seenTables } from "./tables";

export type CoderSetting = Omit<JpegSetting, "format" | "chroma">;

/** Equal for settings with equal levels. */
const named = ({ quality, table, effort, thrift }: CoderSetting): string =>
  JSON.stringify([quality, table, effort, thrift]);

const tablesOf = ({ quality, table }: CoderSetting): StepTables =>
  table === ANNEX_K ? annexKTables(Math.round(quality)) : seenTables(quality);

export class JpegCoder {
  private readonly scans: Scans;
  private readonly levels: Levels;
  private readonly picture: Prepared;
  private last: { named: string; tables: StepTables } | null = null;

  /** `samples` must not change until this returns; a grey picture has no chroma. */
  constructor(samples: JpegSamples, chroma: Chroma) {
    const picture = prepareJpeg(samples, chroma);
    weigh(picture);
    this.picture = picture;
    this.scans = new Scans(picture);
    this.levels = new Levels(picture, this.scans);
  }

  /** Nothing is encoded any more: the next coder works in its memory. */
  end(): void {
    heaps.giveBack(this.picture.heap);
  }

  /** Bytes of memory that are held. */
  get size(): number {
    return this.picture.heap.size;
  }

  /**
   * A whole file without other headers than JFIF's; sequential or progressive, whichever is smaller. The chroma is the
   * coder's own.
   */
  encode(setting: CoderSetting): Uint8Array {
    const { effort, thrift, sequential } = setting;
    const tables = tablesOf(setting);
    this.last = { named: named(setting), tables };
    return this.file(tables, effort === "careful" ? (thrift ?? USUAL_THRIFT) : null, sequential);
  }

  /**
   * What decoders make of the file that was encoded last. Null where it was of another setting, or is of a kind that
   * is left to decoders.
   */
  decoded(setting: CoderSetting): JpegPixels | null {
    return this.last?.named === named(setting) ? decodeLevels(this.picture, this.last.tables) : null;
  }

  /** The same of levels that are only rounded, of which no file is made. */
  rounded(setting: CoderSetting): JpegPixels | null {
    const tables = tablesOf(setting);
    this.last = null;
    this.levels.set(tables, null);
    return decodeLevels(this.picture, tables);
  }

  private file(tables: StepTables, thrift: number | null, sequential = false): Uint8Array {
    this.levels.set(tables, thrift);
    const order = sequential ? this.scans.sequential() : this.scans.smallest();
    const { head, ids } = this.quantisation(tables);
    return concat([Uint8Array.from([...START, ...JFIF, ...head]), ...order.write(ids), Uint8Array.from(END)]);
  }

  /** Tables that are equal are written once. */
  private quantisation(tables: StepTables): { head: number[]; ids: number[] } {
    const [y, cb, cr] = tables.map(({ steps }) => steps);
    if (this.picture.planes.length === 1) return { head: quantisation(0, y), ids: [0] };
    const head = [...quantisation(0, y), ...quantisation(1, cb)];
    if (cb.every((step, k) => step === cr[k])) return { head, ids: [0, 1, 1] };
    return { head: [...head, ...quantisation(2, cr)], ids: [0, 1, 2] };
  }
}
