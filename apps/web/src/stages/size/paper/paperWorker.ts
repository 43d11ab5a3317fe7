import { runToEnd } from "@hardline/core/maths/work";
import { findPaper, type FoundPaper } from "@hardline/core/paper/findPaper";
import { expose } from "comlink";

/** Looks for a paper on a photograph, beside the page. */
const finder = {
  find: (width: number, height: number, data: Uint8Array): FoundPaper | null =>
    runToEnd(findPaper({ width, height, data })),
};
export type Finder = typeof finder;
expose(finder);
