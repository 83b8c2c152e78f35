"use client";

/** A clause as a chip that opens in place. */
import { DropdownMenu, Popover } from "radix-ui";
import { type ReactNode, useEffect, useRef, useState } from "react";
import type { Brief } from "@/core/brief";
import { late, useLate } from "../parts";
import { CHIPS, type Chip, EDITABLE, isStated, isWished, receiversWords, USUAL } from "./chips";

interface Props {
  chip: Chip;
  brief: Brief;
  onSave: (brief: Brief, words: string) => void;
}

export function ChipButton(props: Props) {
  const { chip, brief } = props;
  const words = chip.words(brief);
  const receivers = receiversWords(brief, chip);
  return (
    <ChipPopover {...props}>
      {words === null ? (
        <Popover.Trigger
          data-chip={chip.key}
          className="press rounded-box border border-dashed border-[#9a9a98] px-2.5 py-1 hover:bg-wash data-[state=open]:border-plum"
        >
          Add {chip.title.toLowerCase()}
        </Popover.Trigger>
      ) : (
        <Popover.Trigger
          data-chip={chip.key}
          className={`box px-2.5 py-1 hover:bg-wash data-[state=open]:border-plum ${isWished(brief, chip) ? "border-dashed" : ""}`}
        >
          <span className="mr-1 text-small text-second">{chip.title}</span>{" "}
          <span className="figures font-semibold">{words}</span>
          {isWished(brief, chip) && <span className="ml-1.5 text-tiny text-second">wished</span>}
          {receivers !== null && (
            <span className="figures ml-1.5 text-tiny text-needs">asked {receivers}</span>
          )}
        </Popover.Trigger>
      )}
    </ChipPopover>
  );
}

/**
 * A clause that was just said moves to its place in the row; the focus goes along, not back to the top of
 * the page.
 */
function focusChip(chip: Chip, event: Event) {
  event.preventDefault();
  document.querySelector<HTMLElement>(`[data-chip="${chip.key}"]`)?.focus();
}

const form = late(() => import("./chip-form").then(({ ChipForm }) => ChipForm));

interface PopoverProps extends Props {
  children: ReactNode;
  defaultOpen?: boolean;
  onClose?: () => void;
}

export function ChipPopover({ chip, brief, onSave, children, defaultOpen = false, onClose }: PopoverProps) {
  useLate(form);
  const ChipForm = form.get();
  const [open, setOpen] = useState(defaultOpen && ChipForm !== null);
  const saved = useRef(false);
  const change = (next: boolean) => {
    // It opens with its fields, so that keys typed at once go into them.
    if (next && !ChipForm) return void form.load().then(() => setOpen(true));
    setOpen(next);
    if (!next) onClose?.();
  };
  useEffect(() => {
    if (defaultOpen) void form.load().then(() => setOpen(true));
  }, [defaultOpen]);
  return (
    <Popover.Root open={open} onOpenChange={change}>
      {children}
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label={`${chip.title} of the brief`}
          className="box z-40 max-h-[70vh] w-[352px] overflow-y-auto border-plum p-4"
          onCloseAutoFocus={(event) => saved.current && focusChip(chip, event)}
        >
          {ChipForm && (
            <ChipForm
              chip={chip}
              brief={brief}
              onSave={(next, words) => {
                saved.current = true;
                change(false);
                onSave(next, words);
              }}
            />
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The clauses that are not stated: the usual ones at hand, the others in a list. */
export function AddClauses({ brief, onSave, usual = true }: Omit<Props, "chip"> & { usual?: boolean }) {
  const [adding, setAdding] = useState<Chip | null>(null);
  const open = CHIPS.filter((chip) => EDITABLE.includes(chip.key) && !isStated(brief, chip));
  const listed = open.filter((chip) => !usual || !USUAL.includes(chip.key));
  return (
    <>
      {usual &&
        open
          .filter((chip) => USUAL.includes(chip.key))
          .map((chip) => <ChipButton key={chip.key} chip={chip} brief={brief} onSave={onSave} />)}
      {listed.length > 0 && !adding && (
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="press rounded-box border border-dashed border-[#9a9a98] px-2.5 py-1 hover:bg-wash">
            {usual ? "More clauses" : "Add a clause"}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="start"
              sideOffset={4}
              className="box z-40 max-h-80 overflow-y-auto p-1"
            >
              {listed.map((chip) => (
                <DropdownMenu.Item
                  key={chip.key}
                  onSelect={() => setTimeout(() => setAdding(chip))}
                  className="rounded px-3 py-1 data-[highlighted]:bg-wash data-[highlighted]:outline-none"
                >
                  {chip.title}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
      {adding && (
        <ChipPopover
          key={adding.key}
          chip={adding}
          brief={brief}
          onSave={onSave}
          defaultOpen
          onClose={() => setAdding(null)}
        >
          <Popover.Trigger className="press rounded-box border border-plum px-2.5 py-1">
            {adding.title}
          </Popover.Trigger>
        </ChipPopover>
      )}
    </>
  );
}
