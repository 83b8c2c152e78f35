/** A figure that is typed in the middle of a sentence. */
export function Typed({
  label,
  value,
  onChange,
  unit,
  bad,
}: {
  label: string;
  value: string;
  onChange: (next: string) => void;
  unit: string;
  bad: boolean;
}) {
  return (
    <label className="flex items-center gap-2 text-small text-second">
      {label}
      <input
        value={value}
        onChange={(event) => onChange(event.target.value)}
        aria-invalid={bad}
        autoComplete="off"
        className={`box figures h-6 w-[68px] px-1.5 text-ink ${bad ? "border-not" : ""}`}
      />
      {unit}
    </label>
  );
}
