"use client";

/** What a page needs of a photo beside its files: words for those who do not see it, and the markup. */
import { useEffect, useState } from "react";
import { pictureMarkup, USUAL_SIZES } from "@/core/delivery/picture-set";
import type { RowView } from "../api";
import { call, useChange } from "../api";
import { Button } from "../parts";
import { copied, filesOf } from "./markup";

const MOST = 500;

export function SetPanel({ batchId, row }: { batchId: string; row: RowView }) {
  const [alt, setAlt] = useState(row.alt);
  // What was typed elsewhere, or for another photo, shows here.
  useEffect(() => setAlt(row.alt), [row.alt]);
  const keep = useChange((text: string) =>
    call("PUT", `batches/${batchId}/alt`, { rowId: row.id, alt: text }),
  );
  const save = () => alt.trim() !== row.alt && keep.mutate(alt);
  const files = filesOf(row);
  return (
    <section aria-label="In a page" className="mb-4">
      <h3 className="mb-1 text-small font-semibold text-second">In a page</h3>
      <label className="block">
        <span className="text-small">What it shows, in words</span>
        <textarea
          value={alt}
          maxLength={MOST}
          rows={2}
          placeholder="For those who do not see it"
          onChange={(event) => setAlt(event.target.value)}
          onBlur={save}
          className="box mt-1 w-full resize-none px-2 py-1"
        />
      </label>
      {files && (
        <Button
          className="mt-1"
          onClick={() =>
            copied(
              pictureMarkup(files, { alt: alt.trim(), sizes: USUAL_SIZES, loading: "lazy", standIn: null }),
              "The markup of this photo is copied",
            )
          }
        >
          Copy its markup
        </Button>
      )}
    </section>
  );
}
