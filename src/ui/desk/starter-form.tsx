"use client";

/** A brief for people without a wording: a purpose and its two or three figures. */
import { useForm } from "react-hook-form";
import { type Starter, starterBrief } from "@/core/brief";
import { call, useChange } from "../api";
import { messageOf } from "../clauses";
import { Button, Pop } from "../parts";

interface Props {
  batchId: string;
  starter: Starter;
  onClose: () => void;
}

export function StarterForm({ batchId, starter, onClose }: Props) {
  const form = useForm<Record<string, string>>({
    defaultValues: Object.fromEntries(starter.fields.map(({ key, usual }) => [key, usual])),
  });
  const use = useChange((fresh: ReturnType<typeof starterBrief>) =>
    call("PUT", `batches/${batchId}/brief`, { fresh, words: `taking ${starter.name}` }),
  );
  const submit = form.handleSubmit((typed) => {
    try {
      use.mutate(starterBrief(starter, typed));
      onClose();
    } catch (error) {
      form.setError("root", { message: messageOf(error) });
    }
  });
  return (
    <Pop
      open
      onOpen={(open) => open || onClose()}
      trigger={
        <button type="button" className="press text-plum">
          {starter.name}
        </button>
      }
      label={`A brief for: ${starter.name}`}
      className="w-[352px]"
    >
      <form onSubmit={(event) => void submit(event)}>
        <fieldset>
          <legend className="font-semibold">{starter.name}</legend>
          <p className="mb-2.5 text-small text-second">{starter.about}</p>
          {starter.fields.map(({ key, label, free }, i) => (
            <label key={key} className="mb-2 grid grid-cols-[76px_112px_1fr] items-center gap-2">
              <span className="text-small text-second">{label}</span>
              <input
                {...form.register(key)}
                autoFocus={i === 0}
                autoComplete="off"
                className="box figures h-7 min-w-0 px-2"
              />
              {free && <span className="text-tiny text-second">or empty</span>}
            </label>
          ))}
        </fieldset>
        {form.formState.errors.root && (
          <p role="alert" className="mt-2 text-not">
            {form.formState.errors.root.message}
          </p>
        )}
        <Button type="submit" className="mt-2">
          Use for the batch
        </Button>
      </form>
    </Pop>
  );
}
