import { readRoute, type Route } from "@hardline/core";

/** What a new ticket starts with until the operator decides: 90 mm at a bench laser's dots, everything plain. */
export function firstRoute({ width, height }: { width: number; height: number }): Route {
  const side = width >= height ? { widthMm: 90 } : { heightMm: 90 };
  return readRoute({
    format: "hard-line-route",
    version: 1,
    name: "First route",
    stages: [
      { stage: "size", ...side, dotsPerInch: 254 },
      { stage: "tone" },
      { stage: "blackWhite", method: "scatter", kernel: "jarvis-judice-ninke" },
    ],
  });
}
