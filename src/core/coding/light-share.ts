/**
 * How coarse the map of a picture's light may be: what it takes of a ceiling is lost to the picture, which is what
 * ordinary screens show; what it is too coarse for is seen on bright ones.
 */

/** How a gain map is coded. */
export interface MapKind {
  /** Pixels of the picture to one of the map, on each side. */
  shrink: number;
  /** Of the map's own JPEG, 1 to 100. */
  quality: number;
}

export interface MapLook {
  /** Of the map in the file. */
  bytes: number;
  /** Seen on a bright screen, by the map alone. */
  difference: number;
}

export interface LightTask {
  /** Of the picture. */
  pixels: number;
  look(kind: MapKind): Promise<MapLook>;
  /** What is seen of the picture on an ordinary screen beside a map of so many bytes; null without a ceiling. */
  ordinary: ((map: number) => number) | null;
}

const SHRINKS = [1, 2, 4, 8];
/** Maps of more pixels are not made: so large a picture is seen reduced, and a map is decoded beside it. */
const MOST_PIXELS = 6_500_000;
/** The middle one says most of what its neighbours would. */
const [COARSE, USUAL, FINE] = [30, 60, 85];
/** What a map may add to a picture that has room: next to that picture's own difference it is hardly seen. */
const UNSEEN = 0.5;
/**
 * What the picture and its map differ by add up in this power: 3 foretells what is seen of both together within 4 % for
 * six photographs of 700 and 1200 px, each with twelve maps and two ceilings.
 */
const TOGETHER = 3;

/** The kind whose picture is seen least on both kinds of screen, which count alike. */
export async function shareLight({ pixels, look, ordinary }: LightTask): Promise<MapKind> {
  const shrinks = SHRINKS.filter(
    (shrink) => shrink === SHRINKS.at(-1) || pixels <= MOST_PIXELS * shrink ** 2,
  );
  const tried: { kind: MapKind; cost: number }[] = [];
  const best = () => tried.reduce((a, b) => (b.cost < a.cost ? b : a));
  const costOf = ({ bytes, difference }: MapLook): number => {
    if (!ordinary) return difference <= UNSEEN ? UNSEEN - 1 / bytes : difference;
    const own = ordinary(bytes);
    return own + (own ** TOGETHER + difference ** TOGETHER) ** (1 / TOGETHER);
  };
  const cost = async (kind: MapKind) => tried.push({ kind, cost: costOf(await look(kind)) });
  await Promise.all(shrinks.map((shrink) => cost({ shrink, quality: USUAL })));
  const { shrink } = best().kind;
  await Promise.all([COARSE, FINE].map((quality) => cost({ shrink, quality })));
  return best().kind;
}
