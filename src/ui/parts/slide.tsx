"use client";

import { useEffect, useRef, useState } from "react";

interface Props {
  label: string;
  value: number;
  min?: number;
  max: number;
  step?: number;
  say: (value: number) => string;
  onSet: (value: number) => void;
}

/** Keys may follow each other so quickly and still count as one change. */
const KEYS_MS = 400;

/**
 * Takes effect when it is let go, or when no more keys come: each change is worked out on the whole photo.
 */
export function Slide({ label, value, min = 0, max, step = 1, say, onSet }: Props) {
  const [at, setAt] = useState(value);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const moving = useRef(false);
  const latest = useRef({ value, onSet });
  latest.current = { value, onSet };
  // What was set elsewhere, or taken back, shows here, but not under the hand that moves it.
  useEffect(() => {
    if (!moving.current) setAt(value);
  }, [value]);
  useEffect(() => () => void (timer.current && clearTimeout(timer.current)), []);
  const settle = (to: number) => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    moving.current = false;
    if (to !== latest.current.value) latest.current.onSet(to);
  };
  return (
    <label className="mt-1.5 grid grid-cols-[58px_minmax(0,1fr)_44px] items-center gap-2 text-small">
      <span>{label}</span>
      <input
        type="range"
        min={min}
        max={max}
        step={step}
        value={at}
        aria-valuetext={say(at)}
        onChange={(event) => {
          moving.current = true;
          setAt(Number(event.target.value));
        }}
        onPointerUp={(event) => settle(Number(event.currentTarget.value))}
        onKeyUp={(event) => {
          const to = Number(event.currentTarget.value);
          if (timer.current) clearTimeout(timer.current);
          timer.current = setTimeout(() => settle(to), KEYS_MS);
        }}
        onBlur={() => settle(at)}
        className="h-6 w-full min-w-0 accent-plum"
      />
      <span className="figures text-right">{say(at)}</span>
    </label>
  );
}
