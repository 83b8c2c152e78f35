/** What is asked of one photo, and what a strategy answers. */
import type { Choice, Fitted, Setting } from "@/core/coding";
import type { Geometry } from "@/core/geometry";
import type { Step } from "@/core/plan";
import type { WrittenKind } from "@/core/plan/names";
import type { CandidatesOptions } from "../candidates";
import type { PlanRequest } from "../planned";

export interface FitRequest extends Omit<PlanRequest, "aim" | "geometry">, CandidatesOptions {
  /** The setting that a person has chosen; it is taken wherever the brief allows it. */
  choice?: Choice;
  /** Bytes that its file is not to exceed, although nothing asks that: another of its set takes so many. */
  softCeiling?: number;
  /** What the sharing of a limit on the whole has settled for this photo. */
  share?: Shared;
}

/** One photo's part of a limit on the whole. */
export interface Shared {
  /** Null: its own data stay. */
  setting: Setting | null;
  geometry: Geometry;
  /** Why, for the plan. */
  told: string[];
}

/**
 * What has been chosen for a photo. `encodes`: trials that it took. `elsewise`: a person's setting was not
 * allowed by the brief, so that one was looked for.
 */
export type Chosen = { encodes: number; notes: readonly string[]; elsewise?: boolean } & (
  | OwnData
  | Coded
  | LighterFile
  | { kind: "cannot"; why: string; geometry: Geometry }
);

/** The picture data stay byte for byte; the file is whole. */
export interface OwnData {
  kind: "own";
  file: Uint8Array;
  /** Packed: the same coefficients with other tables. */
  how: "as it is" | "packed" | "on a page";
}

/** An encoding of the planned picture, without its headers. */
export interface Coded {
  kind: "coded";
  fitted: Extract<Fitted, { ok: true }>;
}

/** A file of layers or pages that stays one. */
export interface LighterFile {
  kind: "layered";
  file: Uint8Array;
  format: WrittenKind;
  geometry: Geometry;
  /** Nothing was done to it. */
  same: boolean;
  /** Of the flattened picture. */
  difference: number;
  steps: Step[];
}
