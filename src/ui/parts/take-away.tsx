"use client";

/**
 * What can be taken away of a finished run: the one thing that is wanted most as a button, the others in a
 * list.
 */
import { Download, MoreHorizontal } from "lucide-react";
import { Menu } from "./open";

interface Props {
  runId: string;
  files: number;
  /** The only file, where there is just one. */
  itemId: string | null;
  /** Messages that hold the files; 0 where the brief does not count mail. */
  messages: number;
  /** Whether the list leads to the run's own page. */
  more?: boolean;
}

const MAIN =
  "inline-flex h-11 items-center gap-2 rounded-box bg-plum px-5 text-[15px] font-semibold " +
  "whitespace-nowrap text-white hover:bg-plum-deep";

export function TakeAway({ runId, files, itemId, messages, more = true }: Props) {
  const zip = `/api/runs/${runId}/zip`;
  const mail = (n: number, as: "separate" | "zip") => `/api/runs/${runId}/mail?n=${n}&as=${as}`;
  const main =
    messages === 1
      ? { href: mail(1, "separate"), words: "Download the message" }
      : itemId && files === 1
        ? { href: `/api/items/${itemId}/file`, words: "Download the file" }
        : { href: zip, words: `Download ${files} files as ZIP` };
  const numbers = Array.from({ length: Math.max(1, messages) }, (_, i) => i + 1);
  const message = (n: number) => (numbers.length > 1 ? `Message ${n} of ${numbers.length}` : "A message");
  return (
    <div className="flex items-center gap-1.5">
      <a href={main.href} download className={MAIN}>
        <Download size={16} aria-hidden /> {main.words}
      </a>
      <Menu
        trigger={
          <button
            type="button"
            aria-label="Other ways to take the files away"
            className="box press grid h-11 w-10 place-items-center hover:bg-wash"
          >
            <MoreHorizontal size={16} aria-hidden />
          </button>
        }
        align="end"
        side="top"
        sideOffset={6}
        className="max-h-[70vh] w-80"
        entries={[
          file(zip, "All files as ZIP"),
          file(`${zip}?manifest=1`, "… with a list of what became of what (CSV, JSON)"),
          file(`${zip}?of=originals`, "The originals under the same names, as ZIP"),
          "line",
          ...numbers.map((n) => file(mail(n, "separate"), `${message(n)}, each file attached`)),
          ...numbers.map((n) => file(mail(n, "zip"), `${message(n)}, one ZIP attached`)),
          "line",
          { words: "On print sheets, to be cut", href: `/sheet?run=${runId}` },
          file(`/api/runs/${runId}/pages?as=pdf`, "As pages of one PDF, in their order"),
          file(`/api/runs/${runId}/pages?as=zip`, "As numbered pages, in a ZIP"),
          file(`/api/runs/${runId}/sheet`, "The proof sheet as PDF"),
          { words: "Hand them over at the Counter", href: `/counter?run=${runId}` },
          more && { words: "All about this run", href: `/runs?run=${runId}` },
        ]}
      />
    </div>
  );
}

const file = (href: string, words: string) => ({ href, words, download: true });
