"use client";

/** Says that the server, or its database, is being started again, as long as questions wait for it. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { ServerError } from "../api";

export function Away() {
  const client = useQueryClient();
  const [words, setWords] = useState<string | null>(null);
  useEffect(
    () =>
      client.getQueryCache().subscribe(() => {
        const waiting = client
          .getQueryCache()
          .getAll()
          .map(({ state }) => state.fetchFailureReason)
          .find((reason) => reason instanceof ServerError && reason.passing);
        setWords(waiting?.message ?? null);
      }),
    [client],
  );
  if (words === null) return null;
  return (
    <p
      role="status"
      className="fixed inset-x-0 bottom-0 z-50 border-t border-rule bg-needs-wash px-[18px] py-2 text-needs"
    >
      {words}
    </p>
  );
}
