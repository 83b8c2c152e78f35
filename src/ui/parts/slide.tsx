"use client";

import { useState } from "react";

interface Props {
  label: string;
  value: number;
  min?: number;
  max: number;
  step?: number;
  say: (value: number) => string;
  onSet: (value: number) => void;
}

/** Takes effect when it is let go: each change is worked out on the whole photo. */
export function Slide({ label, value, min = 0, max, step = 1, say, onSet }: Props) {
  const [at, setAt] = useState(value);
  const settle = () => at !== value && onSet(at);
  return (
    <label className="mt-1.5 grid grid-cols-[58px_minmax(0,1fr)_44px] items-center gap-2 text-small">
      <span>{label}</span>
      <input type="range" min={min} max={max} step={step} value={at} aria-valuetext={say(at)} onChange={(event) => setAt(Number(event.target.value))} onPointerUp={settle} onKeyUp={settle} onBlur={settle} className="h-6 w-full min-w-0 accent-plum" />
      <span className="figures text-right">{say(at)}</span>
    </label>
  );
}
