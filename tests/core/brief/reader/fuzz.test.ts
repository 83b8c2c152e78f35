import fc from "fast-check";
import { expect, it } from "vitest";
import { readWording } from "@/core/brief/read";
import { holds, wordings } from "./fuzz";
import { clausesOf } from "./score";

it("answers any text with briefs that pass the check and spans that lie in the text", () => {
  fc.assert(fc.property(wordings, holds), { numRuns: 600 });
});

it("reads the same between empty lines as alone", () => {
  fc.assert(
    fc.property(wordings, (text) => {
      const clauses = (t: string) =>
        readWording(t).briefs.map(({ name, ...brief }) => [name, clausesOf({ name, ...brief })]);
      expect(clauses(`\n\n${text}\n\n`)).toEqual(clauses(text));
    }),
    { numRuns: 300 },
  );
});
