/** Names of files, against the rules that common file systems publish. */
import { describe, expect, it } from "vitest";
import { manifestCsv, manifestJson } from "@/core/delivery/manifest";
import { kindOfName, nameNoteWords, planNames, safeFolder, safeName, sameName } from "@/core/plan/names";
import type { NameRequest } from "@/core/plan/names/plan";
import type { Facts } from "@/core/proof";

const request = (id: string, source: string, change: Partial<NameRequest> = {}): NameRequest => ({
  id,
  source,
  folder: "",
  pattern: "{name}",
  n: 1,
  width: 320,
  height: 240,
  date: "2026-05-14",
  brief: "b",
  format: "jpeg",
  ...change,
});
const paths = (list: NameRequest[]) => planNames(list).map((name) => name.path);

describe("one name", () => {
  it("has none of the signs and names that Windows refuses (Microsoft, Naming Files, Paths, and Namespaces)", () => {
    expect(safeName('a<b>c:d"e/f\\g|h?i*j')).toBe("a_b_c_d_e_f_g_h_i_j");
    for (const name of ["CON", "prn", "Aux", "nul", "COM1", "lpt9", "nul.old", "COM¹"])
      expect(safeName(name)).toBe(`_${name}`);
    for (const name of ["console", "COM10x", "nullify"]) expect(safeName(name)).toBe(name);
    expect(safeName("trailing. . ")).toBe("trailing");
    expect(safeName("a\u0001b\u202ec")).toBe("abc");
  });

  it("tells what it will be by its ending, however that is spelt", () => {
    for (const [name, kind] of [
      ["a.tif", "tiff"],
      ["a.TIFF", "tiff"],
      ["a.b.jpg", "jpeg"],
      ["a.ora", "ora"],
      ["a.txt", null],
      ["a", null],
    ] as const)
      expect(kindOfName(name)).toBe(kind);
  });

  it("takes at most 255 bytes of UTF-8 with its ending, as ext4, APFS and NTFS hold, and breaks no letter", () => {
    for (const sign of ["a", "é", "蛾", "🦋"]) {
      const [name] = paths([request("1", `${sign.repeat(300)}.jpg`)]);
      expect(new TextEncoder().encode(name).length).toBeLessThanOrEqual(255);
      expect(name).toMatch(/\.jpg$/);
      expect(name).not.toContain("\ufffd");
    }
  });

  it("is never hidden, and never empty", () => {
    expect(safeName("..hidden")).toBe("hidden");
    expect(safeName(" . ")).toBe("photo");
  });
});

describe("the names of a run", () => {
  it("stay as they were, ending included: report photos keep their names (common practice)", () => {
    const list = ["IMG_0001.JPG", "Moor 12.jpeg", "zähler.Jpg"].map((source, i) =>
      request(String(i), source),
    );
    const planned = planNames(list);
    expect(planned.map((name) => name.path)).toEqual(list.map((one) => one.source));
    expect(planned.flatMap((name) => name.notes)).toEqual([]);
  });

  it("point out an ending that changes, a name that was taken, and signs that were replaced", () => {
    const planned = planNames([
      request("1", "label.png"),
      request("2", "a.jpg"),
      request("3", "A.JPG"),
      request("4", "what?.jpg"),
    ]);
    expect(planned.map((name) => name.name)).toEqual(["label.jpg", "a.jpg", "A-2.JPG", "what_.jpg"]);
    expect(planned.map((name) => name.notes.map((note) => note.kind))).toEqual([
      ["ending"],
      [],
      ["taken"],
      ["signs"],
    ]);
    expect(planned.flatMap((name) => name.notes.map(nameNoteWords))).toEqual([
      "ends in .jpg instead of .png, because it is another format",
      "another file is called A.JPG",
      "signs that some systems refuse were replaced, or the name was cut",
    ]);
  });

  it("differ on file systems that know no case, and on those that write an accent in two characters", () => {
    expect(
      paths([request("1", "Zähler.jpg"), request("2", "ZÄHLER.jpg"), request("3", "za\u0308hler.jpg")]),
    ).toEqual(["Zähler.jpg", "ZÄHLER-2.jpg", "zähler-3.jpg"]);
    expect(sameName("E\u0301a")).toBe(sameName("Éa"));
  });

  it("may be alike in different folders, which are kept", () => {
    const list = [
      request("1", "1.jpg", { folder: "north" }),
      request("2", "1.jpg", { folder: "south/day 2" }),
      request("3", "1.jpg", { folder: "north" }),
    ];
    expect(paths(list)).toEqual(["north/1.jpg", "south/day 2/1.jpg", "north/1-2.jpg"]);
  });

  it("follow a pattern", () => {
    const list = ["x.jpg", "y.jpg"].map((source, i) =>
      request(String(i), source, { pattern: "{date} {n:3} {name} {w}x{h}", n: i + 1 }),
    );
    expect(paths(list)).toEqual(["2026-05-14 001 x 320x240.jpg", "2026-05-14 002 y 320x240.jpg"]);
    expect(planNames(list)[0].notes).toEqual([{ kind: "pattern" }]);
  });
});

describe("a folder", () => {
  it("leads nowhere but down, and is not endlessly deep", () => {
    expect(safeFolder("../../etc//x/./y")).toBe("etc/x/y");
    expect(safeFolder("C:\\photos\\aux")).toBe("C_/photos/_aux");
    expect(safeFolder("a/".repeat(50)).split("/")).toHaveLength(12);
  });
});

describe("the list of what became of what", () => {
  const facts = (bytes: number) =>
    ({
      format: "jpeg",
      width: 4,
      height: 3,
      bytes,
      resolution: null,
      bits: 8,
      colourSpace: "srgb",
      quality: 80,
    }) as unknown as Facts;
  const rows = [
    {
      source: 'a, "b".jpg',
      output: "=1+1.jpg",
      before: facts(10),
      after: facts(5),
      checks: [{ clause: "format" as const, asked: "JPEG", found: "JPEG", ok: true, gaveWay: false }],
      difference: 0.12345,
    },
  ];

  it("is a table after RFC 4180, in which no name becomes a formula", () => {
    const [head, line, rest] = manifestCsv(rows).split("\r\n");
    expect(head.split(",")).toHaveLength(11);
    expect(line).toBe(
      `"a, ""b"".jpg",'=1+1.jpg,10,5,4x3,4x3,jpeg,jpeg,0.123,yes,"format: asked JPEG, found JPEG"`,
    );
    expect(rest).toBe("");
  });

  it("is JSON with the facts before and after", () => {
    const { title, files } = JSON.parse(manifestJson("t", rows)) as {
      title: string;
      files: Record<string, unknown>[];
    };
    expect(title).toBe("t");
    expect(files[0]).toMatchObject({
      source: 'a, "b".jpg',
      difference: 0.123,
      met: true,
      before: { bytes: 10 },
      after: { bytes: 5 },
    });
  });
});
