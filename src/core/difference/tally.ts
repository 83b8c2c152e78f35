/** What is seen in the cells of a picture, gathered band by band. */
import { Pool } from "./pool";
import { CELL, type Difference, type DifferenceMap } from "./types";
import { worstSpot } from "./worst";

/** Cells of a band. */
export interface BandCells {
  /** Squared differences of all its cells, those beyond its edges too. */
  squares: Float64Array;
  /** Cells in a row of it, whose last may lie beside the picture. */
  across: number;
  /** Rows that are the band's own, and where its first row lies in the picture. */
  first: number;
  last: number;
  row: number;
  /** Means of lightness and of both colour axes, of the trial and of the reference. */
  seen: readonly Float32Array[];
  own: readonly Float32Array[];
}

/** Cells beside a seam that encoders smear over it. */
const SEAM = 2;

export class Tally {
  private readonly map: DifferenceMap;
  private readonly pool = new Pool();
  private readonly moved = [0, 0, 0];
  /** Cells between two seams; 0 where there are none. */
  private readonly every: number;

  /** `parts`: sides in px of the parts that the picture was put together from. */
  constructor(
    private readonly width: number,
    private readonly height: number,
    parts = 0,
  ) {
    const [across, down] = [Math.ceil(width / CELL), Math.ceil(height / CELL)];
    this.map = { data: new Float32Array(across * down), width: across, height: down };
    this.every = parts / CELL;
  }

  add(band: BandCells): void {
    for (let y = band.first; y < band.last; y += 1)
      if (!this.every || !besideSeam(y + band.row, this.every)) this.addRow(band, y);
  }

  // Apart: code that is entered once a picture would be compiled anew for each.
  private addRow({ squares, across, row, seen, own }: BandCells, y: number): void {
    const { map, pool, every, moved } = this;
    const [seenL, seenA, seenB] = seen;
    const [ownL, ownA, ownB] = own;
    const to = (y + row) * map.width - y * across;
    for (let i = y * across, end = i + map.width; i < end; i += 1) {
      if (every && besideSeam(i - y * across, every)) continue;
      const difference = Math.sqrt(squares[i]);
      pool.add(difference);
      map.data[to + i] = difference;
      moved[0] += seenL[i] - ownL[i];
      moved[1] += seenA[i] - ownA[i];
      moved[2] += seenB[i] - ownB[i];
    }
  }

  get result(): Difference {
    const { map, moved, pool, width, height } = this;
    const percent = 100 / map.data.length;
    return {
      difference: pool.value,
      worst: worstSpot(map, width, height),
      shift: { lightness: moved[0] * percent, colour: Math.hypot(moved[1], moved[2]) * percent },
      map,
    };
  }
}

const besideSeam = (cell: number, every: number): boolean =>
  cell % every < SEAM || cell % every >= every - SEAM;
