"use client";

import { Header } from "./header";

/** While a screen's script is on its way: the same head, so that nothing jumps. */
export function Waiting() {
  return (
    <div className="grid h-screen grid-rows-[46px_1fr]">
      <Header undo={null} redo={null} status="" />
    </div>
  );
}
