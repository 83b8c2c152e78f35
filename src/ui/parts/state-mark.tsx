/** A verdict's sign: never colour alone. */
import { Check, X } from "lucide-react";

export type State = "meets" | "needs" | "cannot";

export function StateMark({ state, small = false }: { state: State; small?: boolean }) {
  const size = small ? 14 : 18;
  const colour = state === "meets" ? "bg-met" : state === "cannot" ? "bg-not" : "bg-needs";
  return (
    <span
      aria-hidden
      className={`${colour} inline-flex shrink-0 items-center justify-center rounded-full text-white`}
      style={{ width: size, height: size }}
    >
      {state === "meets" && <Check size={size - 6} strokeWidth={3.2} />}
      {state === "cannot" && <X size={size - 6} strokeWidth={3.2} />}
      {state === "needs" && (
        <span className="block rounded-full bg-white" style={{ width: size / 3.6, height: size / 3.6 }} />
      )}
    </span>
  );
}

export const STATE_WORDS: Record<State, string> = { meets: "Meets", needs: "Needs you", cannot: "Cannot" };
export const STATE_INK: Record<State, string> = {
  meets: "text-met",
  needs: "text-needs",
  cannot: "text-not",
};
