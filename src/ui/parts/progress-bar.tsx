/**
 * How far something is, as a thin bar of our own: browsers draw theirs in colours that mean something else
 * here.
 */
export function ProgressBar({ value, max, label }: { value: number; max: number; label: string }) {
  const share = max > 0 ? Math.min(1, Math.max(0, value / max)) : 0;
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={max}
      aria-valuenow={Math.round(value * 100) / 100}
      className="mt-1 h-1.5 w-full overflow-hidden rounded-full bg-thin"
    >
      <div className="h-full bg-plum" style={{ width: `${share * 100}%` }} />
    </div>
  );
}
