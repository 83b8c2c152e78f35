/**
 * Byte counts as people write them.
 *
 * `kB` (small k) is 1000 bytes and `KiB`, `MiB`, `GiB` are powers of 1024
 * (IEC 80000-13). `KB`, `MB`, `GB` are ambiguous: as a ceiling they are counted
 * in powers of 1000, as a floor in powers of 1024, so that either reading is met.
 */
import { UnitError } from "./error";

export type ByteRole = "min" | "max";
export type ByteBase = 1000 | 1024;

const PATTERN = /^([0-9]+(?:[.,][0-9]+)?)\s*(b|bytes?|k|kb|kib|m|mb|mib|g|gb|gib)?$/i;
const POWER: Record<string, number> = { k: 1, m: 2, g: 3 };

export interface ByteText {
  /** The number in front of the unit. */
  value: number;
  /** 0 bytes, 1 kilo, 2 mega, 3 giga. */
  power: number;
  /** The base the unit itself fixes; null where the spelling leaves it open. */
  base: ByteBase | null;
}

/** Parses "24KB", "1.5 MiB", 30720. Throws {@link UnitError} on anything else. */
export function parseByteText(input: string | number): ByteText {
  if (typeof input === "number") {
    if (!Number.isFinite(input) || input < 0)
      throw new UnitError("bytes", "a count of bytes of 0 or more", String(input));
    return { value: input, power: 0, base: 1000 };
  }
  const match = PATTERN.exec(input.trim());
  if (!match) throw new UnitError("bytes", 'a size such as "60KB", "1.5MB" or 61440', `"${input}"`);
  const value = Number(match[1].replace(",", "."));
  const unit = match[2] ?? "B";
  const power = POWER[unit[0].toLowerCase()] ?? 0;
  if (power === 0) return { value, power, base: 1000 };
  if (/^.i/i.test(unit)) return { value, power, base: 1024 };
  return { value, power, base: unit === "kB" ? 1000 : null };
}

/** Bytes (whole) of a size: a ceiling rounds down, a floor rounds up. */
export function toBytes(input: string | number, role: ByteRole, open?: ByteBase): number {
  const { value, power, base } = parseByteText(input);
  const bytes = value * (base ?? open ?? (role === "max" ? 1000 : 1024)) ** power;
  return role === "max" ? Math.floor(bytes + 1e-6) : Math.ceil(bytes - 1e-6);
}

export interface ByteRange {
  /** Bytes, inclusive; null where there is no floor. */
  min: number | null;
  /** Bytes, inclusive; null where there is no ceiling. */
  max: number | null;
  /** Said to people when the cautious reading of KB left no room. */
  note: string | null;
}

/**
 * Resolves a floor and a ceiling to bytes. Where the cautious readings of an
 * ambiguous unit leave no room, both are counted in powers of 1000 and it is said.
 * Throws {@link UnitError} when the floor lies above the ceiling in every reading.
 */
export function resolveByteRange(range: { min?: string | number; max?: string | number }): ByteRange {
  const min = range.min === undefined ? null : toBytes(range.min, "min");
  const max = range.max === undefined ? null : toBytes(range.max, "max");
  if (min === null || max === null || min <= max) return { min, max, note: null };
  const thousandMin = toBytes(range.min!, "min", 1000);
  const thousandMax = toBytes(range.max!, "max", 1000);
  if (thousandMin > thousandMax) {
    throw new UnitError("fileSize", "min at or below max", `min ${range.min} above max ${range.max}`);
  }
  const note =
    "With KB as 1000 bytes for the ceiling and 1024 for the floor no size is left, so both are " +
    "counted in powers of 1000.";
  return { min: thousandMin, max: thousandMax, note };
}

const UNITS = ["B", "kB", "MB", "GB", "TB"];

/** A measured count for people, in powers of 1000: "812 B", "57.3 kB", "1.20 MB". */
export function formatBytes(bytes: number): string {
  let value = bytes;
  let unit = 0;
  while (value >= 999.5 && unit < UNITS.length - 1) {
    value /= 1000;
    unit += 1;
  }
  if (unit === 0) return `${Math.round(value)} B`;
  const digits = unit > 1 && value < 10 ? 2 : value < 99.95 ? 1 : 0;
  return `${value.toFixed(digits)} ${UNITS[unit]}`;
}
