/** What is said of a limit on the whole. */
import { PLAIN } from "../difference";
import type { Check } from "../proof";
import { formatBytes, trimNumber } from "../units";
import type { Offer } from "./offers";

export interface Limit {
  /** Bytes; of one message where mail is counted. */
  max: number;
  counted: "files" | "mail";
  /** Messages that share it out. */
  messages: number;
}

const inAll = ({ counted, messages }: Limit): string =>
  counted === "files" ? "in all" : messages > 1 ? `in ${messages} messages` : "as one message";

/** "Together the photos take 4.1 MB as one message …": by how much it cannot be. */
export function cannotWords(limit: Limit, total: number): string {
  const room = limit.max * limit.messages;
  return (
    `Cannot: together the photos take ${formatBytes(total)} ${inAll(limit)} where loss is just plain ` +
    `to see (difference ${trimNumber(PLAIN, 1)}), ${formatBytes(total - room)} more than the limit of ` +
    `${formatBytes(limit.max)}${limit.messages > 1 ? " each" : ""}.`
  );
}

/** What an offer does, for a button or a sentence. */
export function offerWords(offer: Offer, names: (id: string) => string): string {
  switch (offer.kind) {
    case "pixels":
      return `No side over ${offer.side} px`;
    case "messages":
      return `${offer.count} messages`;
    case "limit":
      return `Raise the limit to ${formatBytes(Math.ceil(offer.bytes / 1000) * 1000)}`;
    default:
      return offer.ids.length > 2
        ? `Leave out the ${offer.ids.length} that weigh most`
        : `Leave out ${offer.ids.map(names).join(" and ")}`;
  }
}

/** Why a photo's file is as coarse as it is. */
export function sharedWords(limit: Limit, photos: number, level: number): string {
  return (
    `as coarse as all ${photos} photos are (a difference of about ${trimNumber(level, 1)}), because ` +
    `together they may weigh ${formatBytes(limit.max)} ${inAll(limit)}`
  );
}

/** The limit as a line of the proof. `found`: bytes of all files, or of the largest message. */
export function totalCheck(limit: Limit, found: number): Check {
  const what =
    limit.counted === "mail"
      ? limit.messages > 1
        ? `largest of ${limit.messages} messages`
        : "one message"
      : "in all";
  return {
    clause: "total",
    asked: `at most ${formatBytes(limit.max)} ${limit.counted === "mail" ? "as one message" : "in all"}`,
    found: `${formatBytes(found)} (${what})`,
    ok: found <= limit.max,
    gaveWay: false,
  };
}
