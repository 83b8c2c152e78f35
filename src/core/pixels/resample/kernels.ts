/** Interpolation kernels, as functions of the distance in samples. Each is even and integrates to 1. */
import type { KernelName } from "../../photo";

export interface Kernel {
  /** Zero from this distance on. */
  support: number;
  weight: (x: number) => number;
}

/**
 * Two-parameter cubic filters. Source: Mitchell and Netravali, "Reconstruction Filters in Computer Graphics"
 * (1988), equation 8.
 */
const cubic = (b: number, c: number): Kernel => ({
  support: 2,
  weight: (distance) => {
    const x = Math.abs(distance);
    if (x < 1) return ((12 - 9 * b - 6 * c) * x ** 3 + (-18 + 12 * b + 6 * c) * x ** 2 + (6 - 2 * b)) / 6;
    if (x < 2)
      return (
        ((-b - 6 * c) * x ** 3 + (6 * b + 30 * c) * x ** 2 + (-12 * b - 48 * c) * x + (8 * b + 24 * c)) / 6
      );
    return 0;
  },
});

const sinc = (x: number) => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));
/**
 * Sinc under the main lobe of a wider sinc. Source: Duchon, "Lanczos Filtering in One and Two Dimensions"
 * (1979).
 */
const lanczos = (lobes: number): Kernel => ({
  support: lobes,
  weight: (x) => (Math.abs(x) < lobes ? sinc(x) * sinc(x / lobes) : 0),
});

export const kernels: Record<KernelName, Kernel> = {
  nearest: { support: 0.5, weight: (x) => (x >= -0.5 && x < 0.5 ? 1 : 0) },
  linear: { support: 1, weight: (x) => Math.max(0, 1 - Math.abs(x)) },
  "catmull-rom": cubic(0, 0.5),
  mitchell: cubic(1 / 3, 1 / 3),
  lanczos2: lanczos(2),
  lanczos3: lanczos(3),
};

export const kernelNames: Record<KernelName, string> = {
  nearest: "nearest pixel",
  linear: "linear",
  "catmull-rom": "Catmull-Rom",
  mitchell: "Mitchell–Netravali",
  lanczos2: "Lanczos 2",
  lanczos3: "Lanczos 3",
};

/** Reducing: Lanczos 3. Enlarging: Mitchell–Netravali, held between its neighbours so that it cannot ring. */
export const DEFAULT_REDUCING: KernelName = "lanczos3";
export const DEFAULT_ENLARGING: KernelName = "mitchell";
