"use client";

import dynamic from "next/dynamic";
import { Waiting } from "@/ui/parts";

// Made in the browser alone: the server knows nothing that it could show, and would compile every screen twice.
const Screen = dynamic(() => import("@/ui/print-sheet").then(({ SheetScreen }) => SheetScreen), {
  ssr: false,
  loading: Waiting,
});

export default function Page() {
  return <Screen />;
}
