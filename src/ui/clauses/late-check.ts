import { late } from "../parts";

/** The checker of clauses, for what is on screen before it. */
export const lateCheck = late(() => import("./check").then(({ checkClauses }) => checkClauses));
