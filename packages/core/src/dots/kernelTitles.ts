import { KERNEL_NAMES, type KernelName } from "../screen/kernels";

/** Every way to scatter dots: error diffusion by each kernel, and blue noise. */
export const SCATTER_NAMES = [...KERNEL_NAMES, "blue-noise"] as const satisfies readonly string[];
export type ScatterName = KernelName | "blue-noise";

const TITLES: Record<ScatterName, string> = {
  "floyd-steinberg": "Floyd, Steinberg",
  "jarvis-judice-ninke": "Jarvis, Judice, Ninke",
  stucki: "Stucki",
  burkes: "Burkes",
  sierra: "Sierra",
  "sierra-two-row": "Sierra, two rows",
  "sierra-lite": "Sierra lite",
  atkinson: "Atkinson",
  "blue-noise": "Blue noise",
};

/** A kernel's authors, or the pattern's name, as a person writes them. */
export const kernelTitle = (name: ScatterName): string => TITLES[name];
