/** The search of one format for one picture. */
import type { OutputFormat, ResolvedBrief } from "../brief";
import { searchBmp, searchGif, searchTiff } from "./few";
import { LOWEST_QUALITY, searchJpeg } from "./jpeg-search";
import { searchPng } from "./png";
import { searchQuality } from "./quality";
import type { Goal, JpegSetting, PdfSetting, Picture, SearchResult, Setting } from "./types";

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
      return searchTiff(picture, goal);
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

const onPage = (setting: Setting): Setting =>
  setting.format === "jpeg" ? { ...setting, format: "pdf" } : setting;

/** A picture whose JPEGs lie on pages. */
export const asPages = (picture: Picture): Picture => ({
  ...picture,
  encode: (setting) => picture.encode(onPage(setting)),
  difference: (setting) => picture.difference(onPage(setting)),
  sample: async () => {
    const sample = await picture.sample();
    return sample && asPages(sample);
  },
});

async function searchPdf(
  picture: Picture,
  goal: Goal,
  limits: Parameters<typeof searchJpeg>[2],
): Promise<SearchResult<PdfSetting>> {
  const result = await searchJpeg(asPages(picture), goal, limits);
  const setting = result.found.setting as JpegSetting;
  return { ...result, found: { ...result.found, setting: { ...setting, format: "pdf" } } };
}
