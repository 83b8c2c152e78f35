import { describe, expect, it } from "vitest";
import type { Brief } from "@/core/brief";
import { proposeSlots } from "@/core/plan/documents";

const brief = (name: string, rest: Partial<Brief> = {}): Brief => ({ zumbrelBrief: 1, name, ...rest });
const wanted = (...names: string[]) => names.map((name) => ({ id: name, name, brief: brief(name) }));
type Photo = Parameters<typeof proposeSlots>[1][number];
const photo = (id: string, kind: Photo["kind"], [width, height] = [3000, 4000]): Photo => ({
  id,
  name: id,
  width,
  height,
  kind,
});
const pairs = (...args: Parameters<typeof proposeSlots>) => Object.fromEntries(proposeSlots(...args));

describe("photos for documents", () => {
  it("go by what they show: ink for a signature, print for a page, an upright picture for a portrait", () => {
    // Common practice: a portrait, a signature and a certificate in one list.
    const documents = wanted("Photograph", "Signature", "Degree certificate");
    const photos = [
      photo("1.jpg", "print"),
      photo("2.jpg", "ink", [4000, 1500]),
      photo("3.jpg", "picture", [4000, 3000]),
      photo("4.jpg", "picture"),
    ];
    expect(pairs(documents, photos)).toEqual({
      Photograph: "4.jpg",
      Signature: "2.jpg",
      "Degree certificate": "1.jpg",
    });
  });

  it("go by their names first, and never put a face where ink is asked", () => {
    const documents = wanted("ID card, front", "ID card, back", "Signature");
    const photos = [photo("back of card.jpg", "picture"), photo("card front.jpg", "picture")];
    expect(pairs(documents, photos)).toEqual({
      "ID card, front": "card front.jpg",
      "ID card, back": "back of card.jpg",
    });
    expect(pairs(wanted("Signature"), [photo("x.jpg", "picture"), photo("y.jpg", "print")])).toEqual({});
  });

  it("read the last word of a name, and what follows “of”", () => {
    const page = photo("p.jpg", "print");
    expect(pairs(wanted("Photo of your diploma"), [page])).toEqual({ "Photo of your diploma": "p.jpg" });
    expect(pairs(wanted("Passport photo"), [page])).toEqual({});
    expect(
      pairs([{ id: "a", name: "Appendix", brief: brief("Appendix", { format: ["pdf"] }) }], [page]),
    ).toEqual({
      a: "p.jpg",
    });
    expect(pairs([{ id: "s", name: "Box 3", brief: brief("Box 3", { ink: "black" }) }], [page])).toEqual({});
  });

  it("are each proposed once, and only when somebody has looked at them", () => {
    const ten = wanted(...Array.from({ length: 10 }, (_, i) => `Picture ${i}`));
    expect(pairs(ten, [photo("one.jpg", "picture")])).toEqual({ "Picture 0": "one.jpg" });
    expect(pairs(ten, [photo("one.jpg", null)])).toEqual({});
    const many = Array.from({ length: 10 }, (_, i) => photo(`${i}.jpg`, "picture"));
    expect(pairs(wanted("Portrait"), many)).toEqual({ Portrait: "0.jpg" });
    expect(pairs([], many)).toEqual({});
  });
});
