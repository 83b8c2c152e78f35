/** The briefs that ship with Zumbrel: what Quillmoor's receivers ask for. All invented. */
import type { Brief } from "@/core/brief";

export const STARTER_BRIEFS: Brief[] = [
  {
    zumbrelBrief: 1,
    name: "Night-trapping permit: portrait",
    from: "Quillmoor permit office",
    format: ["jpeg"],
    width: { exact: 240 },
    height: { exact: 300 },
    fileSize: { min: "24KB", max: "60KB" },
    resolution: { exact: "152.4ppi" },
    names: "{name}-permit",
  },
  {
    zumbrelBrief: 1,
    name: "Night-trapping permit: signature",
    from: "Quillmoor permit office",
    format: ["jpeg", "png"],
    width: { exact: 260 },
    height: { exact: 110 },
    frame: "pad",
    fileSize: { min: "9KB", max: "18KB" },
    names: "{name}-signed",
  },
  {
    zumbrelBrief: 1,
    name: "Course card",
    from: "Quillmoor course site",
    format: ["jpeg"],
    longSide: { max: 1100 },
    fileSize: { max: "240KB" },
    resolution: { exact: "96ppi" },
  },
];
