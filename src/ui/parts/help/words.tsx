/** The product's dozen words: each in one sentence, with a small drawing. */
import type { ReactNode } from "react";

export interface HelpWord {
  word: string;
  means: string;
  drawing: ReactNode;
}

const INK = "var(--color-ink)";
const PLUM = "var(--color-plum)";
const MET = "var(--color-met)";
const NOT = "var(--color-not)";
const BAND = "var(--color-band)";
const GREY = "#a9a9a7";

/** A line from end to end, as all gauges have. */
const line = <path d="M4 22h48" stroke={GREY} />;
const triangle = (x: number, y: number) => <path d={`M${x} ${y}l-4 -7h8z`} fill={MET} />;
const hollow = (x: number, y: number) => (
  <circle cx={x} cy={y} r={3} fill="var(--color-sheet)" stroke={INK} strokeWidth={1.2} />
);
const paper = (x: number) => (
  <rect x={x} y={5} width={22} height={26} rx={2} fill="var(--color-sheet)" stroke={INK} strokeWidth={1.2} />
);
const picture = (x: number, y: number, width: number, height: number) => (
  <g>
    <rect
      x={x}
      y={y}
      width={width}
      height={height}
      fill="var(--color-ground)"
      stroke={INK}
      strokeWidth={1.2}
    />
    <path
      d={`M${x + 1} ${y + height - 1}l${width * 0.35} ${-height * 0.5}l${width * 0.25} ${height * 0.3}l${width * 0.15} ${-height * 0.15}l${width * 0.22} ${height * 0.33}z`}
      fill={GREY}
    />
  </g>
);

export const WORDS: readonly HelpWord[] = [
  {
    word: "brief",
    means: "What a receiver asks for, as a list of clauses, with the wording that they came from.",
    drawing: (
      <>
        {paper(17)}
        <path d="M21 12h14M21 17h14M21 22h9" stroke={PLUM} strokeWidth={1.6} />
      </>
    ),
  },
  {
    word: "clause",
    means: "One rule of a brief: pixels, file size, resolution, format, colour and so on.",
    drawing: (
      <>
        <rect
          x={5}
          y={11}
          width={46}
          height={14}
          rx={4}
          fill="var(--color-wash)"
          stroke={PLUM}
          strokeWidth={1.2}
        />
        <path d="M11 18h9" stroke={GREY} strokeWidth={2} />
        <path d="M24 18h21" stroke={INK} strokeWidth={2} />
      </>
    ),
  },
  {
    word: "gauge",
    means:
      "The line in every cell: a circle where the photo is, a triangle where its file will be, a band for what is allowed.",
    drawing: (
      <>
        <rect x={18} y={17} width={18} height={10} fill={BAND} />
        {line}
        {hollow(46, 22)}
        {triangle(29, 20)}
      </>
    ),
  },
  {
    word: "floor, ceiling",
    means:
      "The fewest and the most bytes that a receiver takes; a file under the floor is refused like one over the ceiling.",
    drawing: (
      <>
        <rect x={16} y={9} width={24} height={18} fill={BAND} />
        <path d="M10 9h36M10 27h36" stroke={INK} strokeWidth={1.4} />
        {triangle(28, 23)}
      </>
    ),
  },
  {
    word: "frame",
    means: "Which part of the photo is used, and where it lies in the file.",
    drawing: (
      <>
        {picture(5, 6, 46, 24)}
        <rect x={20} y={9} width={15} height={18} fill="none" stroke={PLUM} strokeWidth={1.8} />
      </>
    ),
  },
  {
    word: "plan",
    means: "The steps from a photo to its file, each with its reason.",
    drawing: (
      <>
        <path d="M10 10h5M10 18h5M10 26h5" stroke={PLUM} strokeWidth={2} />
        <path d="M20 10h26M20 18h20M20 26h23" stroke={INK} strokeWidth={1.4} />
      </>
    ),
  },
  {
    word: "trial",
    means: "One file that was really made to see what it weighs and what is seen of it.",
    drawing: (
      <>
        <path d="M6 30V6M6 30h46" stroke={GREY} />
        <path d="M9 9c6 12 16 16 40 18" fill="none" stroke={GREY} />
        {[
          [12, 14],
          [22, 22],
          [38, 26],
        ].map(([x, y]) => (
          <circle key={x} cx={x} cy={y} r={3} fill={MET} />
        ))}
      </>
    ),
  },
  {
    word: "clean",
    means:
      "No visible loss at 100 %: the difference is at most 0.9, and 1.0 is what a careful eye can just see.",
    drawing: (
      <>
        {picture(6, 8, 19, 20)}
        {picture(31, 8, 19, 20)}
        <path d="M26.5 16.5h3M26.5 20h3" stroke={MET} strokeWidth={1.6} />
      </>
    ),
  },
  {
    word: "worst spot",
    means: "The place in a picture where a trial differs most from the photo, to the eye.",
    drawing: (
      <>
        {picture(8, 6, 40, 24)}
        <circle cx={34} cy={15} r={6} fill="none" stroke={NOT} strokeWidth={1.8} />
      </>
    ),
  },
  {
    word: "view size",
    means: "The pixels at which the finished picture is looked at: on a screen, on its paper, or every one.",
    drawing: (
      <>
        <rect x={9} y={5} width={38} height={22} rx={2} fill="none" stroke={INK} strokeWidth={1.4} />
        {picture(15, 9, 26, 14)}
        <path d="M22 31h12" stroke={INK} strokeWidth={1.6} />
      </>
    ),
  },
  {
    word: "gain map",
    means: "A second small picture in a file that says where a bright screen may go above white.",
    drawing: (
      <>
        {picture(5, 8, 28, 20)}
        <rect x={37} y={14} width={14} height={10} fill={INK} />
        <circle cx={46} cy={17.5} r={2.2} fill="#f4e6a8" />
      </>
    ),
  },
  {
    word: "proof",
    means:
      "What was read back from the finished file, clause by clause, by a decoder that had no part in making it.",
    drawing: (
      <>
        {paper(17)}
        <path d="M22 18l4.5 5 8-10" fill="none" stroke={MET} strokeWidth={2.4} />
      </>
    ),
  },
];
