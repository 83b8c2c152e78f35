/** "25 Nov, 14:05". */

export type Order = "made" | "largest" | "worst";
