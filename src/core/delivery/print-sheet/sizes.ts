/**
 * Sheets that print rooms and kiosks take, in millimetres. A4: ISO 216. Letter: ANSI/ASME Y14.1, 8.5 × 11
 * in. The photo sizes are common practice.
 */
export interface SheetSize {
  key: string;
  name: string;
  width: number;
  height: number;
}

export const SHEETS: readonly SheetSize[] = [
  { key: "a4", name: "A4", width: 210, height: 297 },
  { key: "letter", name: "Letter", width: 215.9, height: 279.4 },
  { key: "10x15", name: "10 × 15 cm", width: 100, height: 150 },
  { key: "13x18", name: "13 × 18 cm", width: 130, height: 180 },
];
