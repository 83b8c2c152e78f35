/** The first job, for people who have none yet: a photo that ships with the application, and what a made-up office asks. */
import type { Brief } from "./schema";

/** The name of the batch that the sample photo comes in. */
export const SAMPLE_BATCH = "A sample";

export const SAMPLE_BRIEF: Brief = {
  zumbrelBrief: 1,
  name: "A permit office",
  format: ["jpeg"],
  width: { exact: 240 },
  height: { exact: 300 },
  fileSize: { min: "24KB", max: "60KB" },
};
