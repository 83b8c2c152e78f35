"use client";

import { useEffect, useRef } from "react";
import type { Geometry } from "@/core/geometry";
import type { Size } from "@/core/photo";
import { drawPart } from "./draw-part";

interface Props {
  photoId: string;
  name: string;
  geometry: Geometry;
  /** Upright size of the photo in its own pixels. */
  photo: Size;
  /** Pixels on screen. */
  size: Size;
  background?: string;
}

/** The part of a photo that a frame takes, drawn from its preview. */
export function PartPicture({ photoId, name, geometry, photo, size, background = "#ffffff" }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const image = useRef<HTMLImageElement | null>(null);
  const { width, height } = size;
  useEffect(() => {
    let stale = false;
    const draw = (ready: HTMLImageElement) => {
      if (!stale && canvas.current)
        drawPart({
          canvas: canvas.current,
          image: ready,
          geometry,
          photo,
          size: { width, height },
          background,
        });
    };
    const known = image.current;
    if (known?.complete && known.dataset.photo === photoId) draw(known);
    else {
      const loading = new Image();
      loading.dataset.photo = photoId;
      loading.onload = () => draw(loading);
      loading.src = `/api/photos/${photoId}/view`;
      image.current = loading;
    }
    return () => {
      stale = true;
    };
  }, [photoId, geometry, photo, width, height, background]);
  return <canvas ref={canvas} role="img" aria-label={name} style={{ width, height }} />;
}
