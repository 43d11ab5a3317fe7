import { readRoute, type Route } from "../route/route";
import { patternSettings, type Material } from "../material/material";

/** A route that makes a wedge of a material's dots: its pattern and polarity, with no curve of the process taken off. */
export const wedgeRoute = (material: Material, gain?: readonly (readonly [number, number])[]): Route => {
  const pattern = patternSettings(material);
  // A line has no tones: its wedge is scattered as most are.
  const dots = pattern.method === "line" ? { method: "scatter", kernel: "jarvis-judice-ninke" } : pattern;
  return readRoute({
    ...{
      format: "hard-line-route",
      version: 1,
      name: `Step wedge, ${material.name}`,
      material: material.key,
    },
    stages: [
      { stage: "size", dotsPerInch: material.dotsPerInch, resample: "none" },
      { stage: "blackWhite", ...dots, ...(gain ? { gain } : {}) },
    ],
  });
};
