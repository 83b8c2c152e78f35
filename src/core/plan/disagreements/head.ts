/** A head that is asked in lengths needs a height on paper to be measured by. */
import type { ResolvedBrief } from "../../brief";
import type { Disagreement } from "./types";

export function headDisagreements({ head, paper, resolution, pixels }: ResolvedBrief): Disagreement[] {
  const lengths = [head?.height, head?.eyes].some(
    (range) => range?.min?.of === "paper" || range?.max?.of === "paper",
  );
  if (!lengths || paper?.height || (resolution?.exact && pixels.height?.exact)) return [];
  return [
    {
      clauses: ["head"],
      why: "The head is asked in lengths, but not how high the picture is on paper, so it cannot be measured.",
      wins: "Until a height on paper is stated, the head gives way.",
      choices: [
        {
          label: "Ask nothing of the head",
          effect: "the clause goes",
          change: { head: null },
        },
        ...(paper?.width
          ? []
          : [
              {
                label: "Take 35 × 45 mm",
                effect: "the paper of most portraits",
                change: { paper: { width: "35mm", height: "45mm" } },
              },
            ]),
      ],
    },
  ];
}
