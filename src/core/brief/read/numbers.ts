/** Numbers as people write them: decimal commas, thousands separators. */

export interface Value {
  value: number | null;
  /** The other reading of "1,500": 1.5. Null where there is only one. */
  decimal: number | null;
}

const NONE: Value = { value: null, decimal: null };

/** What the digits mean; nothing for dates, phone numbers and lists. */
export function readNumber(raw: string): Value {
  const digits = raw.replace(/’/g, "'").replace(/[\u00a0\u202f\u2009]/g, " ");
  if (/^\d+$/.test(digits))
    return digits.length > 15 || (digits.length > 1 && digits[0] === "0")
      ? NONE
      : { value: Number(digits), decimal: null };
  const grouped = /^[1-9]\d{0,2}(?:([.,' ])\d{3})(?:\1\d{3})*$/.exec(digits);
  if (grouped) {
    const value = Number(digits.replace(/[.,' ]/g, ""));
    const single = digits.indexOf(grouped[1]) === digits.lastIndexOf(grouped[1]) && /[.,]/.test(grouped[1]);
    return { value, decimal: single ? Number(digits.replace(",", ".")) : null };
  }
  if (/^\d{1,9}[.,]\d{1,6}$/.test(digits))
    return /^0\d/.test(digits) ? NONE : { value: Number(digits.replace(",", ".")), decimal: null };
  if (/^\d{1,3}(,\d{3})+\.\d{1,3}$/.test(digits))
    return { value: Number(digits.replace(/,/g, "")), decimal: null };
  if (/^\d{1,3}(\.\d{3})+,\d{1,3}$/.test(digits))
    return { value: Number(digits.replace(/\./g, "").replace(",", ".")), decimal: null };
  return NONE;
}

/** Whole pixels; "1,920" and "1.920" are thousands here, since no picture has a part of a pixel. */
export function wholePixels(v: Value): number | null {
  return v.value !== null && Number.isInteger(v.value) && v.value >= 1 && v.value <= 65_535 ? v.value : null;
}

/** An amount where a decimal mark makes sense: null when "1.500" leaves open which is meant. */
export function amount(v: Value, thousands: boolean, raw: string): number | null {
  if (v.value === null || v.value <= 0) return null;
  if (v.decimal === null) return v.value;
  return thousands && raw.includes(",") ? v.value : null;
}
