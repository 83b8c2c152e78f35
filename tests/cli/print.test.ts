import { expect, it } from "vitest";
import { checkWords } from "@/cli/print";
import type { Check } from "@/core/proof";

it("claims nothing of a clause that could not be told", () => {
  const check = (ok: boolean | null, gaveWay = false): Check => ({
    clause: "head",
    asked: "32 to 36 mm",
    found: "it",
    ok,
    gaveWay,
  });
  const signs = [check(true), check(false), check(null), check(null, true)].map(
    (one) => checkWords([one]).trim()[0],
  );
  expect(signs).toEqual(["✓", "✗", "?", "~"]);
});
