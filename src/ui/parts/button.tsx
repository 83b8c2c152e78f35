import type { ButtonHTMLAttributes, ReactNode, Ref } from "react";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  kind?: "main" | "plain" | "quiet";
  /** The key that does the same, shown on the button. */
  keyHint?: string;
  ref?: Ref<HTMLButtonElement>;
  children: ReactNode;
}

const KINDS = {
  main: "bg-plum text-white px-5 h-11 text-[15px] font-semibold hover:bg-plum-deep disabled:bg-[#8d8d8f]",
  plain: "box press px-2.5 h-7 hover:bg-wash disabled:text-second disabled:hover:bg-sheet",
  quiet: "press px-1 h-7 hover:underline disabled:text-second disabled:no-underline",
};

export function Button({ kind = "plain", keyHint, className = "", children, ...rest }: Props) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex shrink-0 items-center justify-center gap-2 rounded-box whitespace-nowrap ${KINDS[kind]} ${className}`}
    >
      {children}
      {keyHint && <kbd className="figures text-tiny font-normal opacity-80">{keyHint}</kbd>}
    </button>
  );
}
