/** Files that come together, as a browser hands them over. */
import { describe, expect, it } from "vitest";
import { foldersOf } from "@/ui/api/upload";

/** Dropped files carry `path`, those of a chosen folder `webkitRelativePath`. */
const file = (paths: { path?: string; webkitRelativePath?: string }): File =>
  Object.assign(new File(["x"], "a.jpg"), paths) as File;
const dropped = (...paths: string[]) =>
  foldersOf(paths.map((path) => Object.defineProperty(file({}), "path", { value: path }) as File));

describe("the folders of files that come together", () => {
  it("are kept below the one folder that was brought in", () => {
    expect(dropped("/visit/a.jpg", "/visit/south/b.jpg")).toEqual(["", "south"]);
    expect(dropped("./visit/a.jpg", "./visit/south/day 2/b.jpg")).toEqual(["", "south/day 2"]);
  });

  it("are kept whole where several were brought in, or files beside a folder", () => {
    expect(dropped("/north/a.jpg", "/south/b.jpg")).toEqual(["north", "south"]);
    expect(dropped("./a.jpg", "/visit/b.jpg")).toEqual(["", "visit"]);
  });

  it("are none for files alone", () => {
    expect(dropped("./a.jpg", "b.jpg")).toEqual(["", ""]);
    expect(foldersOf([])).toEqual([]);
  });
});
