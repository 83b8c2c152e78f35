"use client";

/** Pixels, paper and resolution of a photo; the sum's script is loaded when it is opened. */
import { useState } from "react";
import type { Brief } from "@/core/brief";
import type { RowView } from "../api";
import { late, Pop, useWanted } from "../parts";

const sum = late(() => import("./paper-sum").then((part) => part.PaperSum));

interface Props {
  row: RowView;
  brief: Brief;
  onSave: (brief: Brief, words: string) => void;
}

export function PaperPixels({ row, brief, onSave }: Props) {
  const [open, setOpen] = useState(false);
  const PaperSum = useWanted(sum, open, () => setOpen(false));
  return (
    <Pop
      open={open && PaperSum !== null}
      onOpen={setOpen}
      trigger={
        <button
          type="button"
          className="press rounded-box border border-dashed border-[#9a9a98] px-2.5 py-1 hover:bg-wash data-[state=open]:border-plum"
        >
          Paper and pixels
        </button>
      }
      collisionPadding={12}
      label="Paper and pixels"
      className="max-h-[86vh] w-[696px] overflow-y-auto"
    >
      {PaperSum && (
        <PaperSum
          row={row}
          brief={brief}
          onSave={(next, words) => {
            setOpen(false);
            onSave(next, words);
          }}
        />
      )}
    </Pop>
  );
}
