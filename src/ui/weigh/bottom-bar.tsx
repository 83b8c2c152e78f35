"use client";

/** What can be done with the panes, each with its key. */
import type { LightView } from "@/core/pixels/light";
import { Button } from "../parts";

interface Props {
  zoom: number;
  flickering: boolean;
  map: boolean;
  apparent: boolean;
  /** How light above white is shown; null where there is none. */
  light: LightView | null;
  spotAble: boolean;
  canAdd: boolean;
  onSpot: () => void;
  onFlicker: () => void;
  onMap: () => void;
  onApparent: () => void;
  onLight: () => void;
  onZoom: (direction: 1 | -1) => void;
  onFit: () => void;
  onWhole: () => void;
  onAdd: () => void;
}

const LIGHT_WORDS: Record<LightView, string> = {
  ordinary: "ordinary",
  dimmed: "dimmed to its peak",
  above: "above white",
};

export function BottomBar(props: Props) {
  const { zoom, flickering, map, apparent, spotAble, canAdd } = props;
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-1.5">
      <Button keyHint="W" disabled={!spotAble} onClick={props.onSpot}>
        Worst spot
      </Button>
      <Button keyHint="Space" aria-pressed={flickering} onClick={props.onFlicker}>
        {flickering ? "Hold still" : "Flicker"}
      </Button>
      <Button keyHint="M" aria-pressed={map} aria-label="Difference map" onClick={props.onMap}>
        Map
      </Button>
      <span className="box flex h-7 items-center" role="group" aria-label="Zoom">
        <button
          type="button"
          aria-label="Zoom out"
          className="press h-full px-2 hover:bg-wash"
          onClick={() => props.onZoom(-1)}
        >
          −
        </button>
        <output className="figures w-[50px] text-center" aria-label="Zoom">
          {zoom >= 0.1 ? Math.round(zoom * 100) : (zoom * 100).toFixed(1)} %
        </output>
        <button
          type="button"
          aria-label="Zoom in"
          className="press h-full px-2 hover:bg-wash"
          onClick={() => props.onZoom(1)}
        >
          +
        </button>
      </span>
      <Button keyHint="0" onClick={props.onFit}>
        Whole
      </Button>
      <Button keyHint="H" onClick={props.onWhole}>
        100 %
      </Button>
      <Button
        keyHint="T"
        aria-pressed={!apparent}
        onClick={props.onApparent}
        title="Pictures of other pixels: at the same apparent size, or each at its own pixels"
      >
        {apparent ? "Same size" : "Own pixels"}
      </Button>
      {props.light && (
        <Button
          keyHint="L"
          aria-label={`Light above white: ${LIGHT_WORDS[props.light]}`}
          onClick={props.onLight}
          title="As ordinary screens show it; dimmed until its lightest place is the screen's white; or what lies above white marked"
        >
          Light: {LIGHT_WORDS[props.light]}
        </Button>
      )}
      <Button keyHint="N" disabled={!canAdd} aria-label="Add a pane" onClick={props.onAdd}>
        + Pane
      </Button>
    </div>
  );
}
