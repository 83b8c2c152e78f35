/** Pictures of fixed physical size onto sheets: as many as fit, with gaps between them. */
import { trimNumber } from "../../units";
import { type Piece, type Placed, type Sheet, SheetError, type SheetTask } from "./task";

type Area = Pick<SheetTask, "width" | "height" | "margin" | "gap">;

/** Hundredths of a millimetre are no reason not to fit. */
const SLACK = 0.011;
const MOST_SHEETS = 200;
/** Marks beside a single picture need this much paper, in mm. */
export const MARK_ROOM = 10;

const mm = (value: number) => trimNumber(value, 2);
const sizeWords = (size: { width: number; height: number }) => `${mm(size.width)} × ${mm(size.height)} mm`;

/** Throws {@link SheetError} where a picture does not fit, or nothing is left of the sheet. */
export function layOut(task: SheetTask, pieces: readonly Piece[]): Sheet[] {
  const wanted = pieces.filter((piece) => task.copies[piece.id]);
  if (!wanted.length) throw new SheetError("No picture is chosen for the sheet. Choose at least one.");
  if (task.mode === "single") return wanted.map((piece) => single(task, piece));
  const [free, other] = [room(areaOf(task, false)), room(areaOf(task, true))];
  if (free.width <= 0 || free.height <= 0)
    throw new SheetError(
      `Margins of ${mm(task.margin)} mm leave nothing of a sheet of ${sizeWords(task)}. Make them smaller.`,
    );
  if (task.gap >= Math.max(task.width, task.height))
    throw new SheetError(
      `A gap of ${mm(task.gap)} mm is larger than the sheet of ${sizeWords(task)}. Make it smaller.`,
    );
  for (const piece of wanted) {
    const fits = (area: { width: number; height: number }) =>
      (piece.width <= area.width + SLACK && piece.height <= area.height + SLACK) ||
      (piece.height <= area.width + SLACK && piece.width <= area.height + SLACK);
    if (!fits(free) && !fits(other))
      throw new SheetError(
        `${piece.name} measures ${sizeWords(piece)}, and the sheet of ${sizeWords(task)} leaves ` +
          `${sizeWords(free)} inside its margins. Take a larger sheet, smaller margins, or a smaller ` +
          "picture.",
      );
  }
  return task.mode === "fill" ? [fill(task, wanted)] : spread(task, wanted);
}

function areaOf(task: SheetTask, turned: boolean): Area {
  return turned ? { ...task, width: task.height, height: task.width } : task;
}

const room = ({ width, height, margin }: Area) => ({
  width: width - 2 * margin,
  height: height - 2 * margin,
});

/**
 * One picture with bleed: the page is as large as it and its marks, or the asked sheet where that holds them.
 */
function single(task: SheetTask, piece: Piece): Sheet {
  const trim = { width: piece.width - 2 * task.bleed, height: piece.height - 2 * task.bleed };
  if (trim.width <= 0 || trim.height <= 0)
    throw new SheetError(
      `A bleed of ${mm(task.bleed)} mm on each side leaves nothing of ${piece.name}, which measures ` +
        `${sizeWords(piece)}. Make it smaller.`,
    );
  const [width, height] = [piece.width + 2 * MARK_ROOM, piece.height + 2 * MARK_ROOM];
  return {
    width,
    height,
    placed: [
      { id: piece.id, x: MARK_ROOM, y: MARK_ROOM, width: piece.width, height: piece.height, turned: false },
    ],
  };
}

const upright = (placed: readonly Placed[]) => placed.filter((one) => !one.turned).length;

/** More pictures; of as many, more that stand upright when the sheet is looked at. */
const better = (a: readonly Placed[], b: readonly Placed[]): boolean =>
  a.length > b.length || (a.length === b.length && upright(a) > upright(b));

/** One sheet, filled: for pictures of one size the best of all grids, else rows of the pictures by turns. */
function fill(task: SheetTask, pieces: readonly Piece[]): Sheet {
  const same = pieces.every(
    (piece) =>
      Math.abs(piece.width - pieces[0].width) < SLACK && Math.abs(piece.height - pieces[0].height) < SLACK,
  );
  const tries: Sheet[] = [];
  for (const turned of [false, true]) {
    const area = areaOf(task, turned);
    if (same) tries.push(...grids(area, pieces));
    else tries.push(byTurns(area, pieces));
  }
  const best = tries.reduce((a, b) => (better(b.placed, a.placed) ? b : a));
  if (!best.placed.length)
    throw new SheetError(
      "These pictures do not fit onto one sheet together. Take a larger sheet or fewer pictures.",
    );
  return centred(best, task.margin);
}

/** Pictures of a plain grid from which on only grids and strips are tried. */
const MANY = 600;

/** How many pictures of one side lie along a way, with gaps between them. */
const along = (side: number, way: number, gap: number) =>
  Math.max(0, Math.floor((way + gap + SLACK) / (side + gap)));

/**
 * Four blocks around the middle: two in opposite corners one way up, the other two, in what is left beside
 * and below
 * them, the other way. Empty blocks leave plain grids and grids beside a strip.
 */
function grids(area: Area, pieces: readonly Piece[]): Sheet[] {
  const free = room(area);
  const out: Sheet[] = [];
  for (const turned of [false, true]) {
    const [w, h] = turned ? [pieces[0].height, pieces[0].width] : [pieces[0].width, pieces[0].height];
    const best = fourBlocks({ free, w, h, turned, gap: area.gap });
    out.push(sheetOf(area, best, pieces));
  }
  return out;
}

function fourBlocks({
  free,
  w,
  h,
  turned,
  gap,
}: {
  free: { width: number; height: number };
  w: number;
  h: number;
  turned: boolean;
  gap: number;
}): Cell[] {
  const columns = along(w, free.width, gap);
  const rows = along(h, free.height, gap);
  // With the gap behind it.
  const long = (n: number, side: number) => n * (side + gap);
  /** The other two blocks: right of the first and above the third; below the first and left of the third. */
  const others = (c1: number, r1: number, c3: number, r3: number) => {
    const second = {
      columns: along(h, free.width - long(c1, w), gap),
      rows: along(w, free.height - long(r3, h), gap),
    };
    const fourth = {
      columns: along(h, free.width - long(c3, w), gap),
      rows: along(w, free.height - long(r1, h), gap),
    };
    const apart =
      long(fourth.columns, h) <= long(c1, w) + SLACK || long(second.rows, w) <= long(r1, h) + SLACK;
    const [two, four] = [second.columns * second.rows, fourth.columns * fourth.rows];
    return {
      second: apart || two >= four ? second : null,
      fourth: apart || four > two ? fourth : null,
      count: apart ? two + four : Math.max(two, four),
    };
  };
  let best = { count: -1, c1: 0, r1: 0, c3: 0, r3: 0 };
  // Of very many small pictures all ways would take seconds, and hardly gain one.
  const many = columns * rows > MANY;
  const tried = (most: number) =>
    many
      ? [0, most - 2, most - 1, most].filter((n, i, all) => n >= 0 && all.indexOf(n) === i)
      : Array.from({ length: most + 1 }, (_, n) => n);
  const rowsFor = (c: number) => (c ? tried(rows).filter((r) => r > 0) : [0]);
  for (const c1 of tried(columns)) {
    for (const r1 of rowsFor(c1)) {
      for (const c3 of many ? [0] : tried(columns)) {
        for (const r3 of rowsFor(c3)) {
          const beside = long(c1, w) + long(c3, w) <= free.width + gap + SLACK;
          const below = long(r1, h) + long(r3, h) <= free.height + gap + SLACK;
          if (!beside && !below) continue;
          const count = c1 * r1 + c3 * r3 + others(c1, r1, c3, r3).count;
          if (count > best.count) best = { count, c1, r1, c3, r3 };
        }
      }
    }
  }
  const { c1, r1, c3, r3 } = best;
  const { second, fourth } = others(c1, r1, c3, r3);
  return [
    ...grid({ x0: 0, y0: 0, columns: c1, rows: r1, width: w, height: h, turned, gap }),
    ...(c3
      ? grid({
          x0: free.width - long(c3, w) + gap,
          y0: free.height - long(r3, h) + gap,
          columns: c3,
          rows: r3,
          width: w,
          height: h,
          turned,
          gap,
        })
      : []),
    ...(second
      ? grid({
          x0: long(c1, w),
          y0: 0,
          columns: second.columns,
          rows: second.rows,
          width: h,
          height: w,
          turned: !turned,
          gap,
        })
      : []),
    ...(fourth
      ? grid({
          x0: 0,
          y0: long(r1, h),
          columns: fourth.columns,
          rows: fourth.rows,
          width: h,
          height: w,
          turned: !turned,
          gap,
        })
      : []),
  ];
}

type Cell = Omit<Placed, "id">;

function grid({
  x0,
  y0,
  columns,
  rows,
  width,
  height,
  turned,
  gap,
}: {
  x0: number;
  y0: number;
  columns: number;
  rows: number;
  width: number;
  height: number;
  turned: boolean;
  gap: number;
}): Cell[] {
  const cells: Cell[] = [];
  for (let r = 0; r < rows; r += 1)
    for (let c = 0; c < columns; c += 1)
      cells.push({ x: x0 + c * (width + gap), y: y0 + r * (height + gap), width, height, turned });
  return cells;
}

/** Pictures of one size take the cells by turns. */
function sheetOf(area: Area, cells: readonly Cell[], pieces: readonly Piece[]): Sheet {
  return {
    width: area.width,
    height: area.height,
    placed: cells.map((cell, i) => ({ ...cell, id: pieces[i % pieces.length].id })),
  };
}

/** One of each, two of each …, as long as all fit. */
function byTurns(area: Area, pieces: readonly Piece[]): Sheet {
  let best: Sheet = { width: area.width, height: area.height, placed: [] };
  for (let n = 1; n <= 500; n += 1) {
    const { sheets } = shelves(
      area,
      pieces.flatMap((piece) => Array.from({ length: n }, () => piece)),
      1,
    );
    if (!sheets) break;
    best = { width: area.width, height: area.height, placed: sheets[0] };
  }
  return best;
}

/** As many copies as are asked, on as few sheets as rows of them take. */
function spread(task: SheetTask, pieces: readonly Piece[]): Sheet[] {
  const all = pieces.flatMap((piece) => Array.from({ length: task.copies[piece.id] }, () => piece));
  const tries = [false, true].flatMap((turned) => {
    const area = areaOf(task, turned);
    const same = pieces.every(
      (piece) =>
        Math.abs(piece.width - pieces[0].width) < SLACK && Math.abs(piece.height - pieces[0].height) < SLACK,
    );
    if (same) {
      const cells = grids(area, pieces).reduce((a, b) => (better(b.placed, a.placed) ? b : a)).placed;
      if (!cells.length) return [];
      const sheets: Placed[][] = [];
      for (let from = 0; from < all.length; from += cells.length)
        sheets.push(all.slice(from, from + cells.length).map((piece, i) => ({ ...cells[i], id: piece.id })));
      return [{ area, sheets }];
    }
    const { sheets } = shelves(area, all, MOST_SHEETS);
    return sheets ? [{ area, sheets }] : [];
  });
  if (!tries.length)
    throw new SheetError(`These copies take more than ${MOST_SHEETS} sheets. Ask for fewer.`);
  const best = tries.reduce((a, b) =>
    b.sheets.length < a.sheets.length ||
    (b.sheets.length === a.sheets.length && better(b.sheets.flat(), a.sheets.flat()))
      ? b
      : a,
  );
  if (best.sheets.length > MOST_SHEETS)
    throw new SheetError(
      `These copies take ${best.sheets.length} sheets; at most ${MOST_SHEETS} are made. Ask for fewer.`,
    );
  return best.sheets.map((placed) =>
    centred({ width: best.area.width, height: best.area.height, placed }, task.margin),
  );
}

interface Shelf {
  y: number;
  height: number;
  x: number;
}

/**
 * Rows of falling height, each picture where the first row takes it (first fit, decreasing height: Coffman
 * et al., SIAM J. Comput. 9 (1980), 808–826). Null where the sheets do not hold all.
 */
function shelves(area: Area, pieces: readonly Piece[], most: number): { sheets: Placed[][] | null } {
  const free = room(area);
  const lying = pieces.map((piece) => ({
    piece,
    low:
      piece.width >= piece.height
        ? { width: piece.width, height: piece.height, turned: false }
        : { width: piece.height, height: piece.width, turned: true },
  }));
  lying.sort((a, b) => b.low.height - a.low.height);
  const sheets: { shelves: Shelf[]; placed: Placed[] }[] = [];
  for (const { piece, low } of lying) {
    const ways = [low, { width: low.height, height: low.width, turned: !low.turned }].filter(
      (way) => way.width <= free.width + SLACK && way.height <= free.height + SLACK,
    );
    if (!ways.length) return { sheets: null };
    let done = false;
    for (let s = 0; !done; s += 1) {
      if (s === sheets.length) {
        if (s === most) return { sheets: null };
        sheets.push({ shelves: [], placed: [] });
      }
      done = ways.some((way) => putOn({ sheet: sheets[s], way, piece, free, gap: area.gap }));
    }
  }
  return { sheets: sheets.map((sheet) => sheet.placed) };
}

function putOn({
  sheet,
  way,
  piece,
  free,
  gap,
}: {
  sheet: { shelves: Shelf[]; placed: Placed[] };
  way: { width: number; height: number; turned: boolean };
  piece: Piece;
  free: { width: number; height: number };
  gap: number;
}): boolean {
  let shelf = sheet.shelves.find(
    (one) => way.height <= one.height + SLACK && one.x + way.width <= free.width + SLACK,
  );
  if (!shelf) {
    const last = sheet.shelves[sheet.shelves.length - 1];
    const y = last ? last.y + last.height + gap : 0;
    if (y + way.height > free.height + SLACK) return false;
    shelf = { y, height: way.height, x: 0 };
    sheet.shelves.push(shelf);
  }
  sheet.placed.push({ id: piece.id, x: shelf.x, y: shelf.y, ...way });
  shelf.x += way.width + gap;
  return true;
}

/** In the middle of the sheet, as printers cut most evenly. */
function centred({ width, height, placed }: Sheet, margin: number): Sheet {
  const right = Math.max(...placed.map((one) => one.x + one.width));
  const bottom = Math.max(...placed.map((one) => one.y + one.height));
  const [dx, dy] = [margin + (width - 2 * margin - right) / 2, margin + (height - 2 * margin - bottom) / 2];
  return { width, height, placed: placed.map((one) => ({ ...one, x: one.x + dx, y: one.y + dy })) };
}
