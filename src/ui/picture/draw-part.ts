/** Drawing the part of a photo that a frame takes, from its preview: what the file will show, about. */
import type { Geometry } from "@/core/geometry";
import { type Size, turnOrientation } from "@/core/photo";

/**
 * Moves the context so that the turned photo's pixels can be drawn by the upright one's: x and y of the
 * upright photo.
 */
function turn(context: CanvasRenderingContext2D, degrees: number, photo: Size): void {
  if (degrees === 90) context.translate(photo.height, 0);
  if (degrees === 180) context.translate(photo.width, photo.height);
  if (degrees === 270) context.translate(0, photo.width);
  context.rotate((degrees * Math.PI) / 180);
}

/**
 * Fills a canvas of `size` px with the output as it will look. `photo` is the upright photo's size in its
 * own pixels.
 */
export function drawPart({
  canvas,
  image,
  geometry,
  photo,
  size,
  background,
}: {
  canvas: HTMLCanvasElement;
  image: HTMLImageElement;
  geometry: Geometry;
  photo: Size;
  size: Size;
  background: string;
}): void {
  const context = canvas.getContext("2d");
  if (!context) return;
  canvas.width = Math.max(1, Math.round(size.width));
  canvas.height = Math.max(1, Math.round(size.height));
  const [sx, sy] = [canvas.width / geometry.width, canvas.height / geometry.height];
  const { crop, place } = geometry;
  context.imageSmoothingQuality = "high";
  context.fillStyle = background;
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.beginPath();
  context.rect(place.x * sx, place.y * sy, place.width * sx, place.height * sy);
  context.clip();
  context.translate((place.x + place.width / 2) * sx, (place.y + place.height / 2) * sy);
  context.scale((place.width / crop.width) * sx, (place.height / crop.height) * sy);
  context.rotate((-(geometry.angle ?? 0) * Math.PI) / 180);
  context.translate(-(crop.x + crop.width / 2), -(crop.y + crop.height / 2));
  turn(context, geometry.turn ?? 0, photo);
  context.drawImage(image, 0, 0, photo.width, photo.height);
}

/**
 * Where a preview has to lie so that it shows the turned photo: CSS for an image that fills the upright
 * photo's box.
 */
export function turnedStyle(degrees: number, photo: Size, scale: number): React.CSSProperties {
  const [width, height] = [photo.width * scale, photo.height * scale];
  const sideways = turnOrientation(1, degrees as 0) >= 5;
  const box = sideways ? { width: height, height: width } : { width, height };
  return {
    width,
    height,
    left: (box.width - width) / 2,
    top: (box.height - height) / 2,
    transform: `rotate(${degrees}deg)`,
    transformOrigin: "center",
  };
}
