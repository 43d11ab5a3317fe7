import { type KernelName } from "../../screen/kernels";

const TITLES: Record<KernelName, string> = {
  "floyd-steinberg": "Floyd, Steinberg",
  "jarvis-judice-ninke": "Jarvis, Judice, Ninke",
  stucki: "Stucki",
  burkes: "Burkes",
  sierra: "Sierra",
  "sierra-two-row": "Sierra, two rows",
  "sierra-lite": "Sierra lite",
  atkinson: "Atkinson",
};

/** A kernel's authors, as a person writes them. */
export const kernelTitle = (name: KernelName): string => TITLES[name];
