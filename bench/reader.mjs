// What the reader finds in the invented wordings, by kind of text: node bench/reader.mjs
import { load } from "./load.mjs";

const { measure, ...corpora } = await load(`
  export { measure } from "../../tests/core/brief/reader/score";
  export { FIRST } from "../../tests/core/brief/reader/corpus-first";
  export { SECOND } from "../../tests/core/brief/reader/corpus-second";
  export { THIRD } from "../../tests/core/brief/reader/corpus-third";
  export { FOURTH } from "../../tests/core/brief/reader/corpus-fourth";
  export { FIFTH } from "../../tests/core/brief/reader/corpus-fifth";
  export { SEVENTH } from "../../tests/core/brief/reader/corpus-seventh";
  export { EIGHTH } from "../../tests/core/brief/reader/corpus-eighth";
  export { NINTH } from "../../tests/core/brief/reader/corpus-ninth";
  export { TENTH } from "../../tests/core/brief/reader/corpus-tenth";
  export { ELEVENTH } from "../../tests/core/brief/reader/corpus-eleventh";
  export { TWELFTH } from "../../tests/core/brief/reader/corpus-twelfth";
  export { THIRTEENTH } from "../../tests/core/brief/reader/corpus-thirteenth";
  export { FOURTEENTH } from "../../tests/core/brief/reader/corpus-fourteenth";
  export { FIFTEENTH } from "../../tests/core/brief/reader/corpus-fifteenth";
  export { SIXTEENTH } from "../../tests/core/brief/reader/corpus-sixteenth";
  export { SEVENTEENTH } from "../../tests/core/brief/reader/corpus-seventeenth";
  export { EIGHTEENTH } from "../../tests/core/brief/reader/corpus-eighteenth";
  export { NINETEENTH } from "../../tests/core/brief/reader/corpus-nineteenth";
  export { TWENTIETH } from "../../tests/core/brief/reader/corpus-twentieth";
  export { SIXTH } from "../../tests/core/brief/reader/corpus-sixth";
`);
const all = Object.values(corpora).flat();
const KINDS = {
  "several documents": ({ briefs }) => briefs.length > 1,
  "one document, lines": ({ briefs, text }) => briefs.length === 1 && text.includes("\n"),
  "one document, running text": ({ briefs, text }) => briefs.length === 1 && !text.includes("\n"),
  "no rule": ({ briefs }) => briefs.length === 0,
};
for (const [kind, belongs] of Object.entries(KINDS)) {
  const wordings = all.filter(belongs);
  const { stated, found, wrong } = measure(wordings);
  const mixed = wordings.filter((wording) =>
    measure([wording]).wrong.some((one) => one.includes("too many")),
  );
  console.log(
    `${kind}: ${wordings.length} wordings, ${found} of ${stated} clauses found, ${wrong.length} wrong, ${mixed.length} mixed`,
  );
}
