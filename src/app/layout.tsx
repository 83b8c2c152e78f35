import type { Metadata } from "next";
import type { ReactNode } from "react";
import { Providers } from "@/ui/parts";
import "./globals.css";

export const metadata: Metadata = {
  title: "Zumbrel",
  description: "Makes photos meet what a receiver asks for.",
};

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
