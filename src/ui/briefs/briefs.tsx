"use client";

/** Briefs: the shelf, and a receiver's wording turned into clauses. */
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import * as z from "zod";
import { type Brief, MAX_BRIEF_TEXT, parseBrief, parseBriefText } from "@/core/brief";
import { type Reading, readWording } from "@/core/brief/read";
import type { ShelfBrief } from "../api";
import { call, useShelf } from "../api";
import { messageOf } from "../clauses";
import { Button, FileInput, Header, useDrop, useRemembered, useStepKeys } from "../parts";
import { say, sayError } from "../say";
import { BriefHeading } from "./brief-heading";
import { ClauseList } from "./clause-list";
import { useHistory } from "./history";
import { Shelf } from "./shelf";
import { WordingPane } from "./wording-pane";

/** A wording that is being read; its briefs are not on the shelf yet. */
interface Draft {
  wording: string;
  editing: boolean;
  /** Briefs as changed by hand since they were read; null while they are just as read. */
  edited: Brief[] | null;
}

function readDraft(value: unknown): Draft | null {
  const found = z
    .object({
      wording: z.string().max(1_000_000),
      editing: z.boolean(),
      edited: z.array(z.unknown()).nullable(),
    })
    .safeParse(value);
  return found.success ? { ...found.data, edited: found.data.edited?.map(parseBrief) ?? null } : null;
}

const NOTHING: ReadonlySet<string> = new Set();
const EMPTY: Reading = { briefs: [], unread: [], onlyYou: [] };

function tryRead(text: string): { reading: Reading; error: string | null } {
  try {
    return { reading: readWording(text), error: null };
  } catch (error) {
    return { reading: EMPTY, error: messageOf(error) };
  }
}

export function Briefs() {
  const shelf = useShelf();
  const history = useHistory();
  const [draft, setDraft] = useRemembered("draft", readDraft);
  const [chosenId, setChosenId] = useState<string | null>(null);
  const [onDraft, setOnDraft] = useState(false);
  const [lit, setLit] = useState<ReadonlySet<string>>(NOTHING);
  const light = useCallback((keys: readonly string[]) => setLit(keys.length ? new Set(keys) : NOTHING), []);
  const text = useDeferredValue(draft?.wording ?? "");
  const { reading, error } = useMemo(() => tryRead(text), [text]);
  const drafts = draft?.edited ?? reading.briefs;
  const kept = shelf.data?.briefs ?? null;
  const chosen = onDraft ? null : (kept?.find((brief) => brief.id === chosenId) ?? kept?.[0] ?? null);
  const shownWording = chosen ? (chosen.body.wording ?? null) : (draft?.wording ?? null);
  const shown = useMemo(() => (chosen ? [chosen.body] : drafts), [chosen, drafts]);
  const asks = useMemo(() => asksOf(chosen, reading), [chosen, reading]);

  const save = (brief: ShelfBrief) => (next: Brief, words: string) => {
    const put = (body: Brief) => call("PUT", `briefs/${brief.id}`, { brief: body });
    history.act({ words, redo: () => put(next), undo: () => put(brief.body) });
  };
  const change = (index: number) => (next: Brief) =>
    setDraft((old) => old && { ...old, edited: drafts.map((brief, i) => (i === index ? next : brief)) });

  const start = (wording = "") => {
    setDraft({ wording, editing: true, edited: null });
    setOnDraft(true);
  };
  const bring = (bodies: Brief[], words: string) => {
    let ids: string[] = [];
    history.act({
      words,
      redo: async () => {
        if (ids.length) for (const id of ids) await call("POST", `briefs/${id}/restore`);
        else ids = (await call<{ ids: string[] }>("POST", "briefs", { briefs: bodies })).ids;
        setChosenId(ids[0]);
        setOnDraft(false);
      },
      undo: async () => {
        for (const id of ids) await call("DELETE", `briefs/${id}`);
      },
    });
  };
  const keep = () => {
    bring(drafts, drafts.length > 1 ? `keeping ${drafts.length} briefs` : `keeping ${drafts[0].name}`);
    setDraft(null);
    setOnDraft(false);
  };
  const remove = (brief: ShelfBrief) => {
    const restore = () => call("POST", `briefs/${brief.id}/restore`);
    history.act({
      words: `deleting ${brief.body.name}`,
      redo: () => call("DELETE", `briefs/${brief.id}`),
      undo: restore,
    });
    say(`${brief.body.name} is off the shelf. Ctrl Z brings it back; batches that use it keep it.`, {
      duration: 8000,
    });
  };

  const importFiles = useCallback(
    async (files: File[]) => {
      const bodies: Brief[] = [];
      for (const file of files) {
        try {
          if (file.size > MAX_BRIEF_TEXT * 4)
            throw new Error(
              `The file has ${file.size} bytes; at most ${MAX_BRIEF_TEXT} characters are read.`,
            );
          bodies.push(parseBriefText(await file.text()));
        } catch (problem) {
          sayError(`${file.name}: ${messageOf(problem)}`, { duration: 12_000 });
        }
      }
      if (bodies.length)
        bring(
          bodies,
          bodies.length > 1 ? `bringing in ${bodies.length} briefs` : `bringing in ${bodies[0].name}`,
        );
    },
    // `bring` only uses what stays the same: the setters and `history.act`.
    [history.act],
  );
  const drop = useDrop((files) => void importFiles(files));
  const input = useRef<HTMLInputElement>(null);

  // A wording pasted anywhere on the screen is read at once.
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      if (event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement) return;
      const pasted = event.clipboardData?.getData("text/plain") ?? "";
      if (!pasted.trim()) return;
      event.preventDefault();
      setDraft({ wording: pasted, editing: false, edited: null });
      setOnDraft(true);
    };
    window.addEventListener("paste", paste);
    return () => window.removeEventListener("paste", paste);
  }, []);
  useStepKeys(history.step);

  const editing = chosen === null && draft !== null && draft.editing;
  return (
    <div {...drop.props} className="relative grid h-screen grid-rows-[46px_1fr] overflow-hidden">
      <Header undo={history.undo} redo={history.redo} onStep={history.step} status="">
        {chosen === null && drafts.length > 0 && (
          <Button onClick={keep}>
            {drafts.length === 1
              ? "Keep this brief"
              : drafts.length === 2
                ? "Keep both briefs"
                : `Keep ${drafts.length} briefs`}
          </Button>
        )}
      </Header>
      <div className="grid min-h-0 grid-cols-[204px_minmax(0,9fr)_minmax(0,13fr)] max-[1150px]:grid-cols-[168px_minmax(0,8fr)_minmax(0,13fr)]">
        <Shelf
          briefs={kept}
          error={shelf.error}
          chosen={chosen?.id ?? null}
          drafts={draft ? Math.max(1, drafts.length) : 0}
          onChoose={(id) => {
            setChosenId(id);
            setOnDraft(false);
          }}
          onDrafts={() => setOnDraft(true)}
          onPaste={() => start()}
          onOpen={() => input.current?.click()}
          input={
            <FileInput
              label="Choose brief files"
              input={input}
              onFiles={(files) => void importFiles(files)}
            />
          }
        />
        <WordingPane
          key={chosen?.id ?? "draft"}
          wording={shownWording}
          briefs={shown}
          asks={asks}
          lit={lit}
          onLight={light}
          editing={editing}
          error={chosen ? null : error}
          onEdit={() => start(shownWording ?? "")}
          onText={(wording) => setDraft({ wording, editing: true, edited: null })}
          onDone={() => setDraft((old) => old && { ...old, editing: false })}
        />
        <main className="min-h-0 overflow-y-auto px-5 pt-4 pb-8">
          {chosen && (
            <section aria-label={chosen.body.name}>
              <BriefHeading
                key={chosen.id}
                brief={chosen.body}
                onSave={save(chosen)}
                kept={{
                  id: chosen.id,
                  onDelete: () => remove(chosen),
                  onDuplicate: () =>
                    bring(
                      [{ ...chosen.body, name: `${chosen.body.name.slice(0, 190)}, copy` }],
                      `copying ${chosen.body.name}`,
                    ),
                }}
              />
              <ClauseList
                brief={chosen.body}
                index={0}
                all={shown}
                lit={lit}
                onLight={light}
                onSave={save(chosen)}
              />
              <OnlyYou rules={chosen.body.onlyYou ?? []} />
            </section>
          )}
          {!chosen && draft && (
            <>
              {drafts.length === 0 && (
                <p className="text-second">
                  {draft.wording.trim()
                    ? "Found no rules here. The wording stays as it is; rules can be stated on the Desk too."
                    : "What is read appears here while you type."}
                </p>
              )}
              {drafts.map((brief, i) => (
                <section key={i} aria-label={brief.name} className="mb-6">
                  <BriefHeading brief={brief} onSave={change(i)} />
                  <ClauseList
                    brief={brief}
                    index={i}
                    all={shown}
                    lit={lit}
                    onLight={light}
                    onSave={change(i)}
                  />
                </section>
              ))}
              <OnlyYou rules={reading.onlyYou.map((part) => part.text)} />
            </>
          )}
          {!chosen && !draft && kept && (
            <p className="text-second">
              Nothing on the shelf yet. Paste a receiver&apos;s wording, and it is turned into a brief.
            </p>
          )}
        </main>
      </div>
      {drop.over && (
        <div className="pointer-events-none absolute inset-0 z-50 grid place-items-center border-4 border-dashed border-plum bg-wash/80">
          <p className="text-xl font-semibold text-plum">Drop brief files here</p>
        </div>
      )}
    </div>
  );
}

/** Questions about a wording: of a kept brief they are found by reading it again. */
function asksOf(chosen: ShelfBrief | null, reading: Reading) {
  const unread = chosen
    ? chosen.body.wording
      ? tryRead(chosen.body.wording).reading.unread
      : []
    : reading.unread;
  return unread.filter((part) => part.ask);
}

function OnlyYou({ rules }: { rules: readonly string[] }) {
  if (!rules.length) return null;
  return (
    <section aria-label="Only you can check" className="mt-5">
      <h3 className="font-semibold text-second">Only you can check</h3>
      <ul className="mt-1 list-disc space-y-0.5 pl-5 text-second">
        {[...new Set(rules)].map((rule) => (
          <li key={rule}>{rule}</li>
        ))}
      </ul>
    </section>
  );
}
