/** A figure under its name, as in the bar at the bottom. */
export function Figure({
  title,
  value,
  children,
}: {
  title: string;
  value: string;
  children?: React.ReactNode;
}) {
  return (
    <div className="shrink-0">
      <span className="block text-tiny text-second">{title}</span>
      <span className="figures block truncate text-[14px] font-semibold" title={value}>
        {value}
      </span>
      {children}
    </div>
  );
}
