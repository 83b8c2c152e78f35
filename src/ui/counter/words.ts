/** Receivers and their answers in a few words. */

import { formatBytes } from "@/core/units";
import type { Mood, Rules } from "@/receivers";

export const KINDS: Record<Rules["kind"], string> = {
  form: "Upload form",
  mailbox: "Mailbox",
  print: "Print room",
  wall: "Wall screen",
};

export const MOODS: readonly [Mood, string][] = [
  ["ready", "answers at once"],
  ["slow", "is slow"],
  ["closes", "closes the line in the middle"],
];

/** "3 documents", "6.8 MB a message": what is asked, for lists. */
export function ruleWords(rules: Rules): string {
  switch (rules.kind) {
    case "form":
      return `${rules.slots.length} ${rules.slots.length === 1 ? "document" : "documents"}`;
    case "mailbox":
      return `${formatBytes(rules.limit)} a message`;
    case "print":
      return `${rules.width} × ${rules.height} mm, ${rules.ppi} ppi`;
    default:
      return `${rules.width} × ${rules.height} px, ${formatBytes(rules.memory)}`;
  }
}
