/** What a photo of layers or pages holds, what weighs how much in it, and what could be saved. */
import { LRUCache } from "lru-cache";
import { resolveBrief } from "@/core/brief";
import { tiffPages } from "@/core/containers";
import { planGeometry } from "@/core/geometry";
import { DEFAULT_LIGHTER, type Frame, type Lighter } from "@/core/photo";
import { chosen, type Node, type Part, placed } from "@/core/pixels/layers";
import { keepsLayers } from "@/core/plan";
import { trimNumber } from "@/core/units";
import { lightenLayered, weighOra } from "@/imaging/foreign";
import type { LayersView, LayerView, LighterView } from "@/ui/api";
import { RequestError } from "./answer";
import { getStore } from "./store";
import type { requireWeighed } from "./weigh";

type Row = Awaited<ReturnType<typeof requireWeighed>>;

function formatOf({ facts }: Row): "ora" | "tiff" {
  if (facts.format === "ora" || (facts.format === "tiff" && facts.pages > 1)) return facts.format;
  throw new RequestError(404, "This photo has no layers or pages. Go back to the Desk and choose another.");
}

export async function layersView(row: Row): Promise<LayersView> {
  const format = formatOf(row);
  const { facts, name, frame } = row;
  const bytes = await getStore().files.read(row.sha256);
  const { layers, parts } = format === "ora" ? await oraLayers(bytes, frame) : tiffLayers(bytes, frame);
  const keeps = keepsLayers(resolveBrief(row.brief), facts);
  return {
    name,
    format,
    width: facts.width,
    height: facts.height,
    bytes: facts.bytes,
    layers,
    parts,
    keeps,
    lighter: frame.lighter ?? DEFAULT_LIGHTER,
  };
}

async function oraLayers(bytes: Buffer, frame: Frame): Promise<{ layers: LayerView[]; parts: Part[] }> {
  const { parts, artwork } = await weighOra(bytes);
  const own = [...placed(artwork.root)];
  const taken = frame.layers ? [...placed(chosen(artwork, frame.layers).root)] : own;
  const layers = own.map(({ place, node }, i) => ({
    place,
    name: node.name || (node.kind === "group" ? "A group" : "A layer"),
    group: node.kind === "group",
    shown: taken[i].node.visible,
    seen: taken[i].seen,
    visible: node.visible,
    how: howOf(node),
  }));
  return { layers, parts };
}

function howOf({ operator, opacity }: Node): string {
  const words = [
    operator === "src-over" ? "" : operator.replace("-", " "),
    opacity < 1 ? `${trimNumber(opacity * 100, 0)} %` : "",
  ];
  return words.filter(Boolean).join(", ");
}

function tiffLayers(bytes: Buffer, frame: Frame): { layers: LayerView[]; parts: Part[] } {
  const page = frame.page ?? 1;
  const pages = tiffPages(bytes);
  const name = (i: number) => `Page ${i + 1}${pages[i].reduced ? ", a smaller copy" : ""}`;
  return {
    layers: pages.map((one, i) => ({
      place: String(i),
      name: name(i),
      group: false,
      shown: i + 1 === page,
      seen: i + 1 === page,
      visible: i === 0,
      how: `${one.width} × ${one.height} px`,
    })),
    parts: pages
      .map(
        (one, i): Part => ({
          kind: one.reduced ? "preview" : "layer",
          name: name(i),
          path: String(i + 1),
          places: [String(i)],
          bytes: one.bytes,
          hidden: false,
        }),
      )
      .sort((a, b) => b.bytes - a.bytes),
  };
}

/** Measured lately, by photo and measures. */
const known = new LRUCache<string, Promise<LighterView>>({ max: 40 });

/** Really made, and only measured: what is chosen, and what each measure would save. */
export function lighterView(row: Row, lighter: Lighter): Promise<LighterView> {
  const format = formatOf(row);
  const key = JSON.stringify([
    row.sha256,
    lighter,
    row.brief.width,
    row.brief.height,
    row.brief.longSide,
    row.brief.shortSide,
    row.brief.scale,
    row.brief.box,
  ]);
  const found = known.get(key) ?? measured(row, format, lighter);
  known.set(key, found);
  found.catch(() => known.delete(key));
  return found;
}

async function measured(row: Row, format: "ora" | "tiff", lighter: Lighter): Promise<LighterView> {
  const { facts } = row;
  // As many pixels as the brief leaves, or fewer where somebody has said so.
  const geometry = planGeometry({ ...resolveBrief(row.brief), frame: "whole" }, facts);
  const scale = Math.min(lighter.scale / 100, geometry.width / facts.width, 1);
  const size = {
    width: Math.max(1, Math.round(facts.width * scale)),
    height: Math.max(1, Math.round(facts.height * scale)),
  };
  const { file, report } = await lightenLayered(
    format,
    await getStore().files.read(row.sha256),
    lighter,
    size,
  );
  return {
    savings: report.savings,
    bytes: file.length,
    width: report.width,
    height: report.height,
    told: report.told,
  };
}
