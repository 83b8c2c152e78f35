"use client";

/** A list of things to do or to take, which opens at a button; loaded as boxes are. */
import { cloneElement, type KeyboardEvent, useState } from "react";
import { late } from "../late";
import type { MenuProps } from "./types";
import { useWanted } from "./wanted";

const list = late(() => import("./menu-list").then(({ MenuList }) => MenuList));

export function Menu(props: MenuProps) {
  const [open, setOpen] = useState(false);
  const [byKey, setByKey] = useState(false);
  const List = useWanted(list, open, () => setOpen(false));
  if (List) return <List {...props} open={open} onOpen={setOpen} byKey={byKey} />;
  const begin = (key: boolean) => {
    setByKey(key);
    setOpen(true);
  };
  return cloneElement(props.trigger, {
    "aria-haspopup": "menu",
    "aria-expanded": false,
    // A click that no pointer made came from a key.
    onClick: (event) => begin(event.detail === 0),
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key !== "ArrowDown") return;
      event.preventDefault();
      begin(true);
    },
  });
}
