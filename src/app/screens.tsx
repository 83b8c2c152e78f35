"use client";

/**
 * Every screen, made in the browser alone: the server knows nothing that it could show, and would compile each
 * twice. They stand in one file so that pages have one small script in common.
 */
import dynamic from "next/dynamic";
import { Waiting } from "@/ui/parts";

export const Briefs = dynamic(() => import("@/ui/briefs").then((ui) => ui.Briefs), {
  ssr: false,
  loading: Waiting,
});
export const Counter = dynamic(() => import("@/ui/counter").then((ui) => ui.CounterScreen), {
  ssr: false,
  loading: Waiting,
});
export const Desk = dynamic(() => import("@/ui/desk").then((ui) => ui.Desk), {
  ssr: false,
  loading: Waiting,
});
export const Frame = dynamic(() => import("@/ui/frame").then((ui) => ui.FrameScreen), {
  ssr: false,
  loading: Waiting,
});
export const Layers = dynamic(() => import("@/ui/layers").then((ui) => ui.LayersScreen), {
  ssr: false,
  loading: Waiting,
});
export const Runs = dynamic(() => import("@/ui/runs").then((ui) => ui.RunsScreen), {
  ssr: false,
  loading: Waiting,
});
export const Sheet = dynamic(() => import("@/ui/print-sheet").then((ui) => ui.SheetScreen), {
  ssr: false,
  loading: Waiting,
});
export const Weigh = dynamic(() => import("@/ui/weigh").then((ui) => ui.WeighScreen), {
  ssr: false,
  loading: Waiting,
});
