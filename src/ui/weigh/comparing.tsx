"use client";

/** The comparison itself: chart and trials on the left, panes on the right, what to do with them below. */
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { type Choice, LOSSY } from "@/core/coding";
import { LIGHT_VIEWS, type LightView } from "@/core/pixels/light";
import type { BatchView, RowView, WeighedSizeView, WeighView } from "../api";
import { briefOf, call, useChange } from "../api";
import { BatchSettings } from "./batch-settings";
import { BottomBar } from "./bottom-bar";
import { Chart } from "./chart";
import { JudgedAt } from "./judged-at";
import { PaneGrid } from "./pane-grid";
import {
  choiceOf,
  firstPanes,
  LEAST_PANES,
  MOST_PANES,
  nearestSize,
  type PaneOf,
  pictureKey,
  readPanes,
  samePane,
  trialOf,
  worstOf,
  writePanes,
} from "./panes";
import { TrialList } from "./trial-list";
import { TriedAt } from "./tried-at";
import { useLikeBytes } from "./use-like-bytes";
import { UseTrial } from "./use-trial";
import { useBright, useWeigh } from "./use-weigh";
import { useWeighKeys } from "./use-weigh-keys";
import { fitZoom, held, stepZoom, type View, viewOf, zoomAbout } from "./view";

const ADDRESS_MS = 700;

/** Panes stand in the address, so that a reload, or the next photo, goes on with them. */
function usePanes(view: WeighView | null): [PaneOf[], (change: (panes: PaneOf[]) => PaneOf[]) => void] {
  const [panes, setPanes] = useState<PaneOf[] | null>(null);
  const ready =
    view !== null && (view.trials.some((trial) => trial.difference !== null) || view.error !== null);
  useEffect(() => {
    if (panes) return;
    const kept = readPanes(new URLSearchParams(window.location.search).get("panes"));
    if (kept) setPanes(kept);
    else if (view && ready) setPanes(firstPanes(view));
  }, [panes, view, ready]);
  useEffect(() => {
    if (!panes) return;
    // The router looks at every change of the address, so it is told when nothing else is under way.
    const timer = setTimeout(() => {
      const search = new URLSearchParams(window.location.search);
      search.set("panes", writePanes(panes));
      window.history.replaceState(null, "", `?${search}`);
    }, ADDRESS_MS);
    return () => clearTimeout(timer);
  }, [panes]);
  const change = useCallback(
    (next: (panes: PaneOf[]) => PaneOf[]) => setPanes((old) => next(old ?? ["reference", "original"])),
    [],
  );
  return [panes ?? ["reference", "original"], change];
}

const FLICKER_MS = 450;

export function Comparing({ batch, row }: { batch: BatchView; row: RowView }) {
  const { view, error, tiles, ask } = useWeigh(row.assignmentId, row.id);
  const bright = useBright(tiles);
  const use = briefOf(batch, row.id);
  const [panes, setPanes] = usePanes(view);
  const [active, setActive] = useState(1);
  const [looked, setLooked] = useState<View | null>(null);
  const [room, setRoom] = useState({ width: 600, height: 600 });
  const [map, setMap] = useState(false);
  const [apparent, setApparent] = useState(true);
  const [light, setLight] = useState<LightView>("ordinary");
  const [spotted, setSpotted] = useState(false);
  const [flick, setFlick] = useState<boolean | null>(null);
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
  /** Long side of the trials that are asked for on the chart; null for the planned pixels. */
  const [side, setSide] = useState<number | null>(null);
  const chosen = Math.min(active, panes.length - 1);

  useEffect(() => void tiles?.show(light), [tiles, light]);

  const flickering = flick !== null;
  useEffect(() => {
    if (!flickering) return;
    const timer = setInterval(() => setFlick((on) => (on === null ? null : !on)), FLICKER_MS);
    return () => clearInterval(timer);
  }, [flickering]);

  // Trials that a pane wants and nobody has made yet: after a reload, or of the next photo.
  const wanted = useRef(new Set<string>());
  useEffect(() => {
    if (!view) return;
    for (const pane of panes) {
      const key = `${view.id} ${pictureKey(pane, view)}`;
      if (typeof pane === "string" || trialOf(pane, view)?.kept || wanted.current.has(key)) continue;
      wanted.current.add(key);
      void ask(pane);
    }
  }, [view, panes, ask]);

  const show = useCallback(
    (choice: Choice) => {
      if (view && !trialOf(choice, view)?.kept) {
        // Asked for at once, not when the panes are drawn.
        wanted.current.add(`${view.id} ${pictureKey(choice, view)}`);
        void ask(choice);
      }
      setPanes((old) => {
        const there = old.findIndex((pane) => samePane(pane, choice));
        if (there >= 0) {
          setActive(there);
          return old;
        }
        const at =
          typeof old[chosen] === "string" ? old.findIndex((pane) => typeof pane !== "string") : chosen;
        const into = at >= 0 ? at : old.length - 1;
        setActive(into);
        return old.map((pane, i) => (i === into ? choice : pane));
      });
    },
    [setPanes, chosen, view, ask],
  );

  /** In a pane of its own, so that what it is compared with stays. */
  const beside = (choice: Choice) => {
    if (panes.length >= MOST_PANES || panes.some((pane) => samePane(pane, choice))) return show(choice);
    setPanes((old) => [...old, choice]);
    setActive(panes.length);
  };

  const replace = useCallback(
    (old: Choice, next: Choice) => setPanes((all) => all.map((pane) => (samePane(pane, old) ? next : pane))),
    [setPanes],
  );
  const likeBytes = useLikeBytes(view, panes, replace);

  const { mutate: choose } = useChange((choice: Choice) =>
    call("PUT", `batches/${batch.id}/choice`, { choice, rows: [row.id] }),
  );
  const keepData = useCallback(() => choose({ packed: true }), [choose]);
  const output = view?.geometry ?? null;
  const fit = output ? fitZoom(output, room) : 1;
  const look: View = useMemo(
    () => looked ?? { x: (output?.width ?? 0) / 2, y: (output?.height ?? 0) / 2, zoom: Math.min(1, fit) },
    [looked, output, fit],
  );
  const move = useCallback(
    (change: (view: View) => View) =>
      output &&
      setLooked((old) =>
        held(change(old ?? { x: output.width / 2, y: output.height / 2, zoom: Math.min(1, fit) }), output),
      ),
    [output, fit],
  );
  const zoom = useCallback(
    (direction: 1 | -1, at = { x: 0, y: 0 }) =>
      move((old) => zoomAbout(old, stepZoom(old.zoom, direction, fit), at)),
    [move, fit],
  );
  const trial = view ? trialOf(panes[chosen], view) : null;
  // The active pane's worst spot, or that of the first trial where the pane has none.
  const worst =
    trial?.worst && view
      ? worstOf(trial, view)
      : view && (panes.map((pane) => worstIn(pane, view)).find(Boolean) ?? null);

  const actions = {
    spot: () => {
      if (!worst) return;
      setSpotted(true);
      setLooked(viewOf(worst, room));
    },
    flicker: () => setFlick((on) => (on === null ? true : null)),
    map: () => setMap((on) => !on),
    apparent: () => setApparent((on) => !on),
    light: () => setLight((old) => LIGHT_VIEWS[(LIGHT_VIEWS.indexOf(old) + 1) % LIGHT_VIEWS.length]),
    zoom,
    pan: (dx: number, dy: number) =>
      move((old) => ({ ...old, x: old.x + dx / old.zoom, y: old.y + dy / old.zoom })),
    fit: () => {
      setSpotted(false);
      setLooked(null);
    },
    whole: () => move((old) => ({ ...old, zoom: 1 })),
    add: () => {
      if (panes.length >= MOST_PANES || !view) return;
      const next = nextPane(panes, view);
      setPanes((old) => [...old, next]);
      setActive(panes.length);
    },
    close: (index: number) =>
      panes.length > LEAST_PANES && setPanes((old) => old.filter((_, i) => i !== index)),
    choose: (index: number) => index < panes.length && setActive(index),
  };
  useWeighKeys({ ...actions, active: chosen });

  const size = view && nearestSize(side, view);
  const trySize = (next: WeighedSizeView) => {
    if (!view) return;
    setSide(next.side);
    const shown = trial ?? view.trials.find(({ key }) => key === view.chosen) ?? null;
    const format = LOSSY.find((one) => one === shown?.setting.format) ?? "jpeg";
    const bytes = shown?.bytes ?? view.range.max;
    const like = bytes !== null && shown?.size.side !== next.side ? likeBytes(format, bytes, next) : null;
    if (like) beside(like);
  };

  const numbers = useMemo(() => {
    const out = new Map<string, number>();
    if (view)
      panes.forEach((pane, i) => typeof pane !== "string" && out.set(pictureKey(pane, view) ?? "", i + 1));
    return out;
  }, [panes, view]);

  if (!view || !tiles)
    return (
      <main className="grid place-items-center text-second">
        {error ? error.message : "Planning the picture."}
      </main>
    );
  const busy = view.ladder === null || view.made < view.ladder;
  return (
    <div className="grid min-h-0 grid-cols-[388px_minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto]">
      <aside aria-label="Trials" className="flex min-h-0 flex-col border-r border-rule">
        <div className="px-4 pt-3">
          <h2 className="text-[16px] font-bold">File size against visible difference</h2>
          {use && <JudgedAt batchId={batch.id} rowId={row.id} brief={use.body} view={view} />}
          {size && <TriedAt view={view} size={size} onSize={trySize} />}
          {size && <Chart view={view} numbers={numbers} size={size} onTry={show} />}
        </div>
        <div
          tabIndex={0}
          role="region"
          aria-label="List of trials"
          className="min-h-0 flex-1 overflow-y-auto px-4 outline-offset-[-2px]"
        >
          {view.error && (
            <p role="alert" className="mb-2 border-l-[3px] border-not bg-not-wash px-3 py-1.5">
              {view.error}
            </p>
          )}
          <TrialList
            view={view}
            numbers={numbers}
            onShow={show}
            onPacked={view.choice && "packed" in view.choice ? null : keepData}
          />
          {busy && !view.error && (
            <p role="status" className="py-2 text-small text-second">
              {view.ladder === null
                ? "Planning the picture"
                : `Measuring: ${view.made} of ${view.ladder} trials, the quickest first`}
            </p>
          )}
        </div>
        <BatchSettings
          batch={batch}
          choice={typeof panes[chosen] === "string" ? null : panes[chosen]}
          onShow={show}
        />
      </aside>
      <PaneGrid
        {...{ view, tiles, panes, look, map, apparent, light, pointer }}
        active={chosen}
        spot={spotted ? worst : null}
        flick={flick === true}
        onActive={setActive}
        onClose={actions.close}
        onRoom={setRoom}
        onPan={actions.pan}
        onZoom={zoom}
        onPointer={setPointer}
        onRetry={(pane) => {
          const key = pictureKey(pane, view);
          if (key) tiles.retry(key);
          if (typeof pane !== "string") void ask(pane);
        }}
      />
      <footer className="col-span-2 flex items-center gap-4 border-t border-rule bg-sheet px-[18px] py-2">
        <div className="min-w-0 flex-1">
          <BottomBar
            zoom={look.zoom}
            flickering={flickering}
            map={map}
            apparent={apparent}
            light={bright ? light : null}
            spotAble={worst !== null}
            canAdd={panes.length < MOST_PANES}
            onSpot={actions.spot}
            onFlicker={actions.flicker}
            onMap={actions.map}
            onApparent={actions.apparent}
            onLight={actions.light}
            onZoom={zoom}
            onFit={actions.fit}
            onWhole={actions.whole}
            onAdd={actions.add}
          />
        </div>
        <UseTrial batch={batch} row={row} view={view} pane={panes[chosen]} number={chosen + 1} />
      </footer>
    </div>
  );
}

const worstIn = (pane: PaneOf, view: WeighView) => {
  const trial = trialOf(pane, view);
  return trial && worstOf(trial, view);
};

/** What a new pane begins with: the photo itself, else the best trial that is not shown yet. */
function nextPane(panes: readonly PaneOf[], view: WeighView): PaneOf {
  const free = view.trials.filter(
    (trial) =>
      trial.kept && trial.difference !== null && !panes.some((pane) => pictureKey(pane, view) === trial.key),
  );
  const way = view.ways.find((one) => !panes.includes(one.way));
  if (way) return way.way;
  const near = [...free].sort((a, b) => Math.abs(a.difference! - 0.9) - Math.abs(b.difference! - 0.9))[0];
  if (near) return choiceOf(near);
  return panes.includes("original") ? "reference" : "original";
}
