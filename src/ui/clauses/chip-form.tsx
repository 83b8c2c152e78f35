"use client";

/** The form of one clause: its fields, whether it is only wished, and what the receiver's own value is. */
import { useState } from "react";
import { useForm } from "react-hook-form";
import type { Brief } from "@/core/brief";
import { Button } from "../parts";
import { checkClauses } from "./check";
import { asAsked, type Chip, isStated, isWished, receiversWords, WISHABLE, withClauses } from "./chips";
import type { Values } from "./fields";
import { FORMS } from "./forms";
import { messageOf } from "./message";

interface Props {
  chip: Chip;
  brief: Brief;
  /** The whole brief as it is to be, and what was done, for undo. */
  onSave: (brief: Brief, words: string) => void;
}

export function ChipForm({ chip, brief, onSave }: Props) {
  const kind = FORMS[chip.key];
  const form = useForm<Values>({ defaultValues: kind?.start(brief) ?? {} });
  const [wished, setWished] = useState(isWished(brief, chip));
  const receivers = receiversWords(brief, chip);
  const title = chip.title.toLowerCase();
  const submit = form.handleSubmit((values) => {
    try {
      const next = withClauses(brief, chip, kind!.read(values, brief), wished);
      checkClauses(next);
      onSave(next, `changing ${title}`);
    } catch (error) {
      form.setError("root", { message: messageOf(error) });
    }
  });
  return (
    <form onSubmit={(event) => void submit(event)}>
      {kind ? (
        <kind.Fields form={form} brief={brief} />
      ) : (
        <p>
          <b className="figures">{chip.words(brief)}</b>
          <span className="mt-1 block text-small text-second">
            Read and kept with the brief; files cannot be made to it yet.
          </span>
        </p>
      )}
      {kind && WISHABLE.includes(chip.key) && (
        <label className="mt-3 flex items-center gap-2">
          <input
            type="checkbox"
            checked={wished}
            onChange={(event) => setWished(event.target.checked)}
            className="size-4 accent-plum"
          />
          Only wished: it may give way
        </label>
      )}
      {receivers !== null && (
        <p className="mt-3 border-l-[3px] border-needs bg-needs-wash px-3 py-1.5">
          The receiver asks <b className="figures">{receivers}</b>.{" "}
          <button
            type="button"
            className="press hover:underline"
            onClick={() => onSave(asAsked(brief, chip), `back to the receiver's ${title}`)}
          >
            As asked
          </button>
        </p>
      )}
      {form.formState.errors.root && (
        <p role="alert" className="mt-3 text-not">
          {form.formState.errors.root.message}
        </p>
      )}
      <div className="mt-4 flex items-center justify-between">
        {kind ? <Button type="submit">Use this</Button> : <span />}
        {isStated(brief, chip) && (
          <Button
            kind="quiet"
            onClick={() => onSave(withClauses(brief, chip, {}, false), `removing ${title}`)}
          >
            Remove this clause
          </Button>
        )}
      </div>
    </form>
  );
}
