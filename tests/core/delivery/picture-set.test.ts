/** Markup of sets, read by an independent parser of the HTML standard; and what a page weighs. */
import { type DefaultTreeAdapterTypes, parseFragment } from "parse5";
import { describe, expect, it } from "vitest";
import { pageWeights, pictureMarkup, type SetFile, secondsFor, takenAt } from "@/core/delivery/picture-set";

const file = (
  width: number,
  format: SetFile["format"],
  bytes: number,
  name = `a-${width}.${format}`,
): SetFile => ({
  name,
  width,
  height: Math.round((width * 2) / 3),
  format,
  bytes,
});
const set = [480, 960, 1440].flatMap((width) => [
  file(width, "jpeg", width * 100),
  file(width, "avif", width * 60),
]);
const options = { alt: "", sizes: "100vw", loading: "lazy", standIn: null } as const;

type Element = DefaultTreeAdapterTypes.Element;
function parsed(html: string) {
  const [picture, ...rest] = parseFragment(html).childNodes.filter((node) => "tagName" in node) as Element[];
  const children = picture.childNodes.filter((node) => "tagName" in node) as Element[];
  const of = (one: Element) => Object.fromEntries(one.attrs.map(({ name, value }) => [name, value]));
  return {
    rest,
    tag: picture.tagName,
    sources: children.filter((one) => one.tagName === "source").map(of),
    images: children.filter((one) => one.tagName === "img").map(of),
  };
}

describe("the markup of a set", () => {
  it("is a picture with a source a format, the lightest first, and an image that any browser takes", () => {
    const { tag, sources, images, rest } = parsed(
      pictureMarkup(set, { ...options, sizes: "(min-width: 60em) 50vw, 100vw" }),
    );
    expect(tag).toBe("picture");
    expect(rest).toEqual([]);
    expect(sources).toEqual([
      {
        type: "image/avif",
        srcset: "a-480.avif 480w, a-960.avif 960w, a-1440.avif 1440w",
        sizes: "(min-width: 60em) 50vw, 100vw",
      },
      {
        type: "image/jpeg",
        srcset: "a-480.jpeg 480w, a-960.jpeg 960w, a-1440.jpeg 1440w",
        sizes: "(min-width: 60em) 50vw, 100vw",
      },
    ]);
    expect(images).toEqual([
      { src: "a-960.jpeg", width: "1440", height: "960", alt: "", loading: "lazy", decoding: "async" },
    ]);
  });

  it("holds names and words that mean something in HTML or in a srcset", () => {
    const odd = [file(300, "jpeg", 10, `in/Fen & "moor", 2.jpg`)];
    const standIn = "data:image/webp;base64,UklGRg==";
    const { sources, images } = parsed(
      pictureMarkup(odd, { ...options, alt: `A <moth> & "its" light`, standIn }),
    );
    expect(sources[0].srcset).toBe("in/Fen%20%26%20%22moor%22%2C%202.jpg 300w");
    expect(images[0]).toMatchObject({
      src: "in/Fen%20%26%20%22moor%22%2C%202.jpg",
      alt: `A <moth> & "its" light`,
      style: `background: center / cover no-repeat url('${standIn}')`,
    });
  });
});

describe("what a page weighs", () => {
  it("counts the narrowest file that fills the screen, of the lightest format", () => {
    expect(takenAt(set, { width: 360, density: 1 }).name).toBe("a-480.avif");
    expect(takenAt(set, { width: 360, density: 2 }).name).toBe("a-960.avif");
    expect(takenAt(set, { width: 1280, density: 1 }).name).toBe("a-1440.avif");
    // None is wide enough: the widest.
    expect(takenAt(set, { width: 1920, density: 2 }).name).toBe("a-1440.avif");
    expect(takenAt(set, { width: 1920, density: 1 }, 0.5).name).toBe("a-960.avif");
  });

  it("adds up a page: twenty pictures of half a megabyte load five times faster at 80 % less", () => {
    // Common practice.
    const files = [file(1000, "jpeg", 100_000)];
    const page = Array.from({ length: 20 }, () => ({ files, before: 500_000 }));
    const [one] = pageWeights(page);
    expect([one.before, one.after]).toEqual([10_000_000, 2_000_000]);
    expect(secondsFor(one.before, 8) / secondsFor(one.after, 8)).toBe(5);
    expect(secondsFor(one.after, 8)).toBe(2);
    expect(pageWeights(page)).toHaveLength(8);
  });
});
