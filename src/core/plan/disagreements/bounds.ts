/** Pixel clauses that leave no size: found by leaving each of the others out. */
import { type Brief, type ClauseKey, clauseNames, clauseWords, type ResolvedBrief } from "../../brief";
import { targetFor } from "../../geometry";
import type { Size } from "../../photo";
import { type Disagreement, demanded } from "./types";

const KEYS: readonly ClauseKey[] = ["width", "height", "longSide", "shortSide", "sizes", "box", "scale"];
/** Told in other words by other parts. */
const ELSEWHERE: readonly ClauseKey[] = ["shape", "paper", "resolution"];
/** A wide and an upright photo stand for all when none is at hand. */
const STAND_INS: readonly Size[] = [
  { width: 4000, height: 3000 },
  { width: 3000, height: 4000 },
];

export function boundDisagreements(
  brief: Brief,
  resolved: ResolvedBrief,
  photo: Size | null = null,
): Disagreement[] {
  const photos = photo ? [photo] : STAND_INS;
  // Scale depends on the photo's own pixels, so without one nothing can be said.
  const keys = KEYS.filter((key) => brief[key] !== undefined && (photo || key !== "scale"));
  const lostWith = (size: Size, skip: readonly ClauseKey[]) =>
    targetFor(
      resolved,
      size,
      new Set([...skip, ...ELSEWHERE, ...(photo ? [] : (["scale"] as const))]),
    ).lost.map(({ clause }) => clause);
  const lost = keys.filter((key) => photos.every((size) => lostWith(size, []).includes(key)));
  return lost.flatMap((loser) => {
    const winner = keys.find(
      (key) => key !== loser && photos.every((size) => !lostWith(size, [key]).includes(loser)),
    );
    if (!winner) return [];
    const words = (key: ClauseKey) => `${clauseNames[key].toLowerCase()} ${clauseWords(brief, key)}`;
    return [
      {
        clauses: [winner, loser],
        why: `No picture has ${words(winner)} and ${words(loser)} at once.`,
        wins: `${clauseNames[winner]} wins unless you choose otherwise.`,
        choices: [
          {
            label: `Follow the ${clauseNames[winner].toLowerCase()}`,
            effect: clauseWords(brief, winner)!,
            change: { [loser]: null, ...demanded(brief, winner) },
          },
          {
            label: `Follow the ${clauseNames[loser].toLowerCase()}`,
            effect: clauseWords(brief, loser)!,
            change: { [winner]: null, ...demanded(brief, loser) },
          },
        ],
      },
    ];
  });
}
