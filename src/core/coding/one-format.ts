/** The search of one format for one picture. */
import type { OutputFormat, ResolvedBrief } from "../brief";
import { formatBytes } from "../units";
import { searchBmp, searchGif, searchTiff } from "./few";
import { LOWEST_QUALITY, searchJpeg } from "./jpeg-search";
import { searchPng } from "./png";
import { searchQuality } from "./quality";
import type { Goal, JpegSetting, JpegTiffSetting, PdfSetting, Picture, SearchResult, Setting } from "./types";

/** `free`: pixels may still be given up. `last`: no other format is left to try. */
export function search({
  picture,
  format,
  goal,
  brief,
  free,
  last,
}: {
  picture: Picture;
  format: OutputFormat;
  goal: Goal;
  brief: ResolvedBrief;
  free: boolean;
  last: boolean;
}): Promise<SearchResult> {
  switch (format) {
    case "png":
      // Colours of a format without loss are given up for a smaller file only where one is asked for.
      return searchPng(
        picture,
        brief.stated.has("fileSize") ? goal : { ...goal, aim: "best" },
        last && !free,
      );
    case "webp":
    case "avif":
      return searchQuality(format, picture, goal, {
        quality: brief.quality,
        bits: brief.bits === 10 ? 10 : 8,
      });
    case "tiff":
      return searchTiffs(picture, goal, brief);
    case "gif":
      return searchGif(picture, goal, last && !free);
    case "bmp":
      return searchBmp(picture, goal);
    case "jpeg":
      return searchJpeg(picture, goal, { quality: brief.quality, lowest: LOWEST_QUALITY });
    case "pdf":
      return searchPdf(picture, goal, { quality: brief.quality, lowest: LOWEST_QUALITY });
  }
}

/** A picture whose JPEGs lie in something else. */
const within = (picture: Picture, put: (setting: JpegSetting) => Setting): Picture => {
  const inside = (setting: Setting) => (setting.format === "jpeg" ? put(setting) : setting);
  return {
    ...picture,
    encode: (setting) => picture.encode(inside(setting)),
    difference: (setting) => picture.difference(inside(setting)),
    sample: async () => {
      const sample = await picture.sample();
      return sample && within(sample, put);
    },
  };
};

/** A picture whose JPEGs lie on pages. */
export const asPages = (picture: Picture): Picture =>
  within(picture, (setting) => ({ ...setting, format: "pdf" }));

const inStrip = (setting: JpegSetting): JpegTiffSetting => ({
  ...setting,
  format: "tiff",
  compression: "jpeg",
  sequential: true,
});

/**
 * Without loss; where that takes too much and the brief speaks of a quality, which is to say of loss, as JPEG
 * inside.
 */
async function searchTiffs(
  picture: Picture,
  goal: Goal,
  { quality, bits, space }: ResolvedBrief,
): Promise<SearchResult> {
  const plain = await searchTiff(picture, goal);
  const may = quality !== null && bits === 8 && space !== "cmyk" && picture.opaque;
  if (plain.outcome !== "over" || !may) return plain;
  const result = await searchJpeg(within(picture, inStrip), goal, { quality, lowest: LOWEST_QUALITY });
  const why = `JPEG inside the TIFF, because without loss it takes ${formatBytes(plain.found.bytes)}`;
  return {
    ...result,
    found: { ...result.found, setting: inStrip(result.found.setting as JpegSetting) },
    encodes: plain.encodes + result.encodes,
    told: [why, ...result.told],
  };
}

async function searchPdf(
  picture: Picture,
  goal: Goal,
  limits: Parameters<typeof searchJpeg>[2],
): Promise<SearchResult<PdfSetting>> {
  const result = await searchJpeg(asPages(picture), goal, limits);
  const setting = result.found.setting as JpegSetting;
  return { ...result, found: { ...result.found, setting: { ...setting, format: "pdf" } } };
}
