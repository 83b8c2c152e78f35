"use client";

/** Files dropped anywhere on an element, folders with all that is in them. */
import { type DragEvent, useEffect, useRef, useState } from "react";

type Reader = typeof import("file-selector").fromEvent;

const carriesFiles = (event: DragEvent): boolean => event.dataTransfer.types.includes("Files");

/** `over`: something that can be dropped is held over the element, which `props` are given to. */
export function useDrop(onFiles: (files: File[]) => void) {
  const [over, setOver] = useState(false);
  /** Elements within elements that the pointer is over. */
  const depth = useRef(0);
  const read = useRef<Reader | null>(null);
  useEffect(() => {
    // What is dropped can be read only while it is dropped: by then the reader of folders must be there.
    void import("file-selector").then(
      ({ fromEvent }) => {
        read.current = fromEvent;
      },
      // Without it files are still taken, folders are not.
      () => undefined,
    );
  }, []);
  const leave = (left: number) => {
    depth.current = Math.max(0, left);
    setOver(depth.current > 0);
  };
  const drop = async (event: DragEvent) => {
    const plain = [...event.dataTransfer.files];
    const found = read.current ? await read.current(event.nativeEvent) : plain;
    onFiles(found.filter((one): one is File => one instanceof File));
  };
  return {
    over,
    props: {
      onDragEnter: (event: DragEvent) => {
        if (!carriesFiles(event)) return;
        event.preventDefault();
        leave(depth.current + 1);
      },
      onDragOver: (event: DragEvent) => {
        if (!carriesFiles(event)) return;
        event.preventDefault();
        event.dataTransfer.dropEffect = "copy";
      },
      onDragLeave: (event: DragEvent) => {
        if (carriesFiles(event)) leave(depth.current - 1);
      },
      onDrop: (event: DragEvent) => {
        if (!carriesFiles(event)) return;
        event.preventDefault();
        leave(0);
        void drop(event);
      },
    },
  };
}
