/** The keys that work on each screen, in the order in which they are likely wanted. */

export interface HelpKey {
  keys: string;
  does: string;
}

const EVERYWHERE: readonly HelpKey[] = [{ keys: "?", does: "this sheet" }];
const EDITS: readonly HelpKey[] = [
  { keys: "Ctrl Z", does: "take the last edit back" },
  { keys: "Ctrl Shift Z", does: "make it again" },
];
const LIST: readonly HelpKey[] = [
  { keys: "↑ ↓", does: "the photo above or below" },
  { keys: "Page ↑ ↓", does: "eight photos further" },
  { keys: "Home End", does: "the first or last photo" },
];

const SCREENS: Readonly<Record<string, readonly HelpKey[]>> = {
  "/": [
    ...LIST,
    { keys: "Shift ↑ ↓", does: "mark photos together" },
    { keys: "→ ←", does: "fold the files of a set out and in" },
    { keys: "F", does: "the frame of the photo" },
    { keys: "E", does: "weigh the photo" },
    { keys: "Del", does: "leave the marked photos out" },
    { keys: "Esc", does: "let go of the marks" },
    ...EDITS,
  ],
  "/frame": [
    { keys: "← ↑ → ↓", does: "move the frame by a pixel, with Shift by ten" },
    { keys: "+ −", does: "a smaller or larger part" },
    { keys: ", .", does: "lean it by a tenth of a degree" },
    { keys: "R", does: "turn it, with Shift the other way" },
    { keys: "X", does: "the other way up" },
    { keys: "0", does: "as it was proposed" },
    { keys: "G", does: "guides" },
    { keys: "O", does: "the round guide" },
    { keys: "M", does: "mark crown and chin, where a head is asked" },
    { keys: "T", does: "the result whole, or at its true pixels" },
    { keys: "Enter", does: "it is right: the next photo" },
    { keys: "N P", does: "the next photo, the one before" },
    { keys: "Esc", does: "back to the Desk" },
    ...EDITS,
  ],
  "/weigh": [
    { keys: "1 to 6", does: "choose a pane" },
    { keys: "N X", does: "add a pane, close it" },
    { keys: "W", does: "the place where the trial differs most" },
    { keys: "Space", does: "flicker between two panes" },
    { keys: "M", does: "the map of differences" },
    { keys: "L", does: "how light above white is shown" },
    { keys: "T", does: "other pixels at the same size, or each at its own" },
    { keys: "+ −", does: "nearer, further away" },
    { keys: "← ↑ → ↓", does: "move all panes together" },
    { keys: "0 H", does: "the whole picture, or 100 %" },
    { keys: "U", does: "take the trial for this photo, with Shift for the batch" },
    { keys: ", .", does: "the photo before, the next one" },
    { keys: "Esc", does: "back to the Desk" },
  ],
  "/layers": [{ keys: "Esc", does: "back to the Desk" }],
  "/runs": LIST,
};

/** `path`: of the screen. */
export const keysOf = (path: string): readonly HelpKey[] => [...(SCREENS[path] ?? []), ...EVERYWHERE];
