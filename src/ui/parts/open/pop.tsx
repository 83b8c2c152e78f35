"use client";

/**
 * A box that opens beside what was pressed. Its library is not waited for by the screen: until it is opened for
 * the first time, a plain button stands for it.
 */
import { cloneElement } from "react";
import { late } from "../late";
import type { PopProps } from "./types";
import { useWanted } from "./wanted";

const box = late(() => import("./pop-box").then(({ PopBox }) => PopBox));

export function Pop(props: PopProps) {
  const { open, onOpen, trigger } = props;
  const Box = useWanted(box, open, () => onOpen(false));
  if (Box) return <Box {...props} />;
  return cloneElement(trigger, {
    "aria-haspopup": "dialog",
    "aria-expanded": false,
    onClick: () => onOpen(true),
  });
}
