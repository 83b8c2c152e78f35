"use client";

/** A clause as a chip that opens in place. */
import { useRef, useState } from "react";
import type { Brief } from "@/core/brief";
import { late, Menu, Pop, type Trigger, useWanted } from "../parts";
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
  const trigger =
    words === null ? (
      <button
        type="button"
        data-chip={chip.key}
        className="press rounded-box border border-dashed border-[#9a9a98] px-2.5 py-1 hover:bg-wash data-[state=open]:border-plum"
      >
        Add {chip.title.toLowerCase()}
      </button>
    ) : (
      <button
        type="button"
        data-chip={chip.key}
        className={`box px-2.5 py-1 hover:bg-wash data-[state=open]:border-plum ${isWished(brief, chip) ? "border-dashed" : ""}`}
      >
        <span className="mr-1 text-small text-second">{chip.title}</span>{" "}
        <span className="figures font-semibold">{words}</span>
        {isWished(brief, chip) && <span className="ml-1.5 text-tiny text-second">wished</span>}
        {receivers !== null && <span className="figures ml-1.5 text-tiny text-needs">asked {receivers}</span>}
      </button>
    );
  return <ChipPopover {...props} trigger={trigger} />;
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
  trigger: Trigger;
  defaultOpen?: boolean;
  onClose?: () => void;
}

export function ChipPopover({ chip, brief, onSave, trigger, defaultOpen = false, onClose }: PopoverProps) {
  const [open, setOpen] = useState(defaultOpen);
  const saved = useRef(false);
  const change = (next: boolean) => {
    setOpen(next);
    if (!next) onClose?.();
  };
  const ChipForm = useWanted(form, open, () => change(false));
  return (
    <Pop
      // It opens with its fields, so that keys typed at once go into them.
      open={open && ChipForm !== null}
      onOpen={change}
      trigger={trigger}
      label={`${chip.title} of the brief`}
      className="max-h-[70vh] w-[352px] overflow-y-auto"
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
    </Pop>
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
        <Menu
          className="max-h-80"
          trigger={
            <button
              type="button"
              className="press rounded-box border border-dashed border-[#9a9a98] px-2.5 py-1 hover:bg-wash"
            >
              {usual ? "More clauses" : "Add a clause"}
            </button>
          }
          entries={listed.map((chip) => ({
            key: chip.key,
            words: chip.title,
            onSelect: () => setAdding(chip),
          }))}
        />
      )}
      {adding && (
        <ChipPopover
          key={adding.key}
          chip={adding}
          brief={brief}
          onSave={onSave}
          defaultOpen
          onClose={() => setAdding(null)}
          trigger={
            <button type="button" className="press rounded-box border border-plum px-2.5 py-1">
              {adding.title}
            </button>
          }
        />
      )}
    </>
  );
}
