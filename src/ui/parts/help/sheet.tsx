"use client";

/** The keys of this screen and the product's words, on one sheet. */
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { keysOf } from "./keys";
import { WORDS } from "./words";

export function HelpSheet({ path, onClose }: { path: string; onClose: () => void }) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#fbfbfa]/70" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-50 w-[724px] max-w-full overflow-y-auto border-l border-rule bg-sheet px-7 py-5"
        >
          <div className="mb-2 flex items-center justify-between">
            <Dialog.Title className="text-[17px] font-bold tracking-tight">Keys and words</Dialog.Title>
            <Dialog.Close
              aria-label="Close"
              className="press grid size-7 place-items-center rounded-box hover:bg-wash"
            >
              <X size={16} aria-hidden />
            </Dialog.Close>
          </div>
          <section aria-label="Keys of this screen" className="mb-4">
            <h3 className="mb-1.5 text-small font-semibold text-second">Keys of this screen</h3>
            <dl className="grid grid-cols-2 gap-x-6">
              {keysOf(path).map(({ keys, does }) => (
                <div key={keys} className="flex items-baseline gap-3 border-b border-thin py-1">
                  <dt className="figures w-[98px] shrink-0 whitespace-nowrap font-semibold text-plum">
                    {keys}
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
          <section aria-label="Words">
            <h3 className="mb-1.5 text-small font-semibold text-second">Words</h3>
            <dl className="grid grid-cols-2 gap-x-6">
              {WORDS.map(({ word, means, drawing }) => (
                <div
                  key={word}
                  className="grid grid-cols-[56px_minmax(0,1fr)] content-start gap-x-3 border-b border-thin py-1.5"
                >
                  <svg viewBox="0 0 56 36" width="56" height="36" aria-hidden className="row-span-2 mt-0.5">
                    {drawing}
                  </svg>
                  <dt className="font-semibold">{word}</dt>
                  <dd className="col-start-2 text-small text-second">{means}</dd>
                </div>
              ))}
            </dl>
          </section>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
