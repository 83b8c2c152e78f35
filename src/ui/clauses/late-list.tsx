"use client";

import dynamic from "next/dynamic";

/** Clauses are held against each other after they are shown. */
export const DisagreementList = dynamic(
  () => import("./disagreement-list").then((part) => part.DisagreementList),
  { ssr: false },
);
