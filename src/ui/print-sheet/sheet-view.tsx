/** A sheet as it will be printed: paper, pictures in their places, and where it is cut. */
import { cutsOf, type Sheet, type SheetTask } from "@/core/delivery/print-sheet";

export function SheetView({ sheet, task }: { sheet: Sheet; task: SheetTask }) {
  const line = Math.max(sheet.width, sheet.height) / 700;
  return (
    <svg
      role="img"
      aria-label={`The sheet with ${sheet.placed.length} pictures`}
      viewBox={`0 0 ${sheet.width} ${sheet.height}`}
      className="max-h-full max-w-full bg-white outline outline-rule"
      style={{ aspectRatio: `${sheet.width} / ${sheet.height}`, height: "100%" }}
    >
      {sheet.placed.map((one, i) => {
        const [width, height] = one.turned ? [one.height, one.width] : [one.width, one.height];
        const turn = one.turned
          ? `translate(${one.x + one.width} ${one.y}) rotate(90)`
          : `translate(${one.x} ${one.y})`;
        return (
          <image
            key={i}
            href={`/api/items/${one.id}/file?look=1`}
            width={width}
            height={height}
            transform={turn}
            preserveAspectRatio="none"
          />
        );
      })}
      {task.mode === "single" &&
        sheet.placed.map((one) => (
          <rect
            key={one.id}
            x={one.x + task.bleed}
            y={one.y + task.bleed}
            width={one.width - 2 * task.bleed}
            height={one.height - 2 * task.bleed}
            fill="none"
            stroke="#ffffff"
            strokeOpacity={0.8}
            strokeWidth={line}
            strokeDasharray={`${line * 5} ${line * 3}`}
          />
        ))}
      {cutsOf(sheet, task).map((cut, i) => (
        <line key={`c${i}`} {...cut} stroke="#5d5d5f" strokeWidth={line} />
      ))}
    </svg>
  );
}
