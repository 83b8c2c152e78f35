/** Connected groups of pixels (8 neighbours). */
export interface Component {
  label: number;
  area: number;
  left: number;
  top: number;
  /** Inclusive. */
  right: number;
  bottom: number;
  /** Pixels that pass the stronger test. */
  strong: number;
  /** Pixels with a neighbour outside. */
  edge: number;
}

export interface Components {
  /** 0 is nothing; else the index of a component plus one. */
  labels: Int32Array;
  list: Component[];
}

/** Of pixels whose value is at least `weak`; `strong` is counted beside. */
export function componentsOf(
  values: Uint8Array,
  width: number,
  height: number,
  weak: number,
  strong: number,
): Components {
  const labels = new Int32Array(values.length);
  const list: Component[] = [];
  const stack: number[] = [];
  for (let start = 0; start < values.length; start += 1) {
    if (labels[start] || values[start] < weak) continue;
    const label = list.length + 1;
    const x0 = start % width;
    const y0 = (start - x0) / width;
    const found: Component = { label, area: 0, left: x0, right: x0, top: y0, bottom: y0, strong: 0, edge: 0 };
    list.push(found);
    labels[start] = label;
    stack.push(start);
    while (stack.length) {
      const p = stack.pop()!;
      const x = p % width;
      const y = (p - x) / width;
      found.area += 1;
      if (values[p] >= strong) found.strong += 1;
      if (x < found.left) found.left = x;
      if (x > found.right) found.right = x;
      if (y < found.top) found.top = y;
      if (y > found.bottom) found.bottom = y;
      let inside = true;
      for (let dy = -1; dy <= 1; dy += 1) {
        for (let dx = -1; dx <= 1; dx += 1) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
          const q = ny * width + nx;
          if (values[q] < weak) {
            if (dx === 0 || dy === 0) inside = false;
          } else if (!labels[q]) {
            labels[q] = label;
            stack.push(q);
          }
        }
      }
      if (!inside) found.edge += 1;
    }
  }
  return { labels, list };
}
