"use client";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { type ReactNode, useState } from "react";
import { Toaster } from "sonner";

export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: { queries: { staleTime: Infinity, retry: 2, refetchOnWindowFocus: false } },
      }),
  );
  return (
    <QueryClientProvider client={client}>
      <Tooltip.Provider delayDuration={300}>{children}</Tooltip.Provider>
      <Toaster
        position="bottom-center"
        toastOptions={{
          style: {
            borderRadius: 6,
            boxShadow: "none",
            border: "1px solid #cfcfcd",
            fontFamily: "inherit",
            color: "#1b1b1d",
          },
        }}
      />
    </QueryClientProvider>
  );
}
