"use client";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { ServerError } from "../api";
import { Foot } from "../say";
import { Away } from "./away";
import { Help } from "./help";

const MOST_TRIES = 60;
const isPassing = (error: unknown) => error instanceof ServerError && error.passing;

export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: {
            staleTime: Infinity,
            // What is being started again comes back within seconds.
            retry: (failures, error) => failures < (isPassing(error) ? MOST_TRIES : 2),
            retryDelay: (failures, error) => (isPassing(error) ? 1000 : 1000 * 2 ** failures),
            refetchOnWindowFocus: false,
          },
        },
      }),
  );
  return (
    <QueryClientProvider client={client}>
      {children}
      <Away />
      <Help />
      <Foot />
    </QueryClientProvider>
  );
}
