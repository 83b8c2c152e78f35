"use client";

/**
 * What can be taken away of a finished run: the one thing that is wanted most as a button, the others in a
 * list.
 */
import { Download, MoreHorizontal } from "lucide-react";
import Link from "next/link";
import { DropdownMenu } from "radix-ui";

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
const ITEM = "block rounded px-3 py-1.5 data-[highlighted]:bg-wash data-[highlighted]:outline-none";

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
  return (
    <div className="flex items-center gap-1.5">
      <a href={main.href} download className={MAIN}>
        <Download size={16} aria-hidden /> {main.words}
      </a>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label="Other ways to take the files away"
          className="box press grid h-11 w-10 place-items-center hover:bg-wash"
        >
          <MoreHorizontal size={16} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            side="top"
            sideOffset={6}
            className="box z-40 max-h-[70vh] w-80 overflow-y-auto p-1"
          >
            <Item href={zip}>All files as ZIP</Item>
            <Item href={`${zip}?manifest=1`}>… with a list of what became of what (CSV, JSON)</Item>
            <Item href={`${zip}?of=originals`}>The originals under the same names, as ZIP</Item>
            <DropdownMenu.Separator className="my-1 border-t border-thin" />
            {numbers.map((n) => (
              <Item key={n} href={mail(n, "separate")}>
                {numbers.length > 1
                  ? `Message ${n} of ${numbers.length}, each file attached`
                  : "A message, each file attached"}
              </Item>
            ))}
            {numbers.map((n) => (
              <Item key={n} href={mail(n, "zip")}>
                {numbers.length > 1
                  ? `Message ${n} of ${numbers.length}, one ZIP attached`
                  : "A message, one ZIP attached"}
              </Item>
            ))}
            <DropdownMenu.Separator className="my-1 border-t border-thin" />
            <DropdownMenu.Item asChild className={`${ITEM} press`}>
              <Link href={`/sheet?run=${runId}`}>On print sheets, to be cut</Link>
            </DropdownMenu.Item>
            <Item href={`/api/runs/${runId}/pages?as=pdf`}>As pages of one PDF, in their order</Item>
            <Item href={`/api/runs/${runId}/pages?as=zip`}>As numbered pages, in a ZIP</Item>
            <Item href={`/api/runs/${runId}/sheet`}>The proof sheet as PDF</Item>
            <DropdownMenu.Item asChild className={`${ITEM} press`}>
              <Link href={`/counter?run=${runId}`}>Hand them over at the Counter</Link>
            </DropdownMenu.Item>
            {more && (
              <DropdownMenu.Item asChild className={`${ITEM} press`}>
                <Link href={`/runs?run=${runId}`}>All about this run</Link>
              </DropdownMenu.Item>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}

function Item({ href, children }: { href: string; children: React.ReactNode }) {
  return (
    <DropdownMenu.Item asChild className={ITEM}>
      <a href={href} download>
        {children}
      </a>
    </DropdownMenu.Item>
  );
}
