import type { Popover } from "radix-ui";
import type { ButtonHTMLAttributes, ReactElement, ReactNode } from "react";

export type Place = Pick<
  Popover.PopoverContentProps,
  "side" | "align" | "sideOffset" | "collisionPadding" | "onCloseAutoFocus"
>;

/** A button; what opens it is added. */
export type Trigger = ReactElement<ButtonHTMLAttributes<HTMLButtonElement>>;

export interface PopProps extends Place {
  open: boolean;
  onOpen: (open: boolean) => void;
  trigger: Trigger;
  /** Of the box, for those who hear it. */
  label: string;
  className?: string;
  children: ReactNode;
}

export type Entry =
  | { heading: string }
  | "line"
  | {
      /** Where words alone do not tell entries apart. */
      key?: string;
      words: ReactNode;
      onSelect: () => void;
    }
  | {
      words: ReactNode;
      href: string;
      /** A file, not another screen. */
      download?: boolean;
    };

export interface MenuProps extends Place {
  trigger: Trigger;
  /** False stands for none. */
  entries: readonly (Entry | false)[];
  className?: string;
}
