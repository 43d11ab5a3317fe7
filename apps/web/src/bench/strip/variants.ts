import {
  kernelTitle,
  replaceSettings,
  settingsOf,
  withSettings,
  type BlackWhiteSettings,
  type KernelName,
  type Route,
} from "@hardline/core";

/** Settings that can be fanned out into a test strip. */
export type StripSetting = "method" | "strength";

export interface Variant {
  readonly label: string;
  readonly route: Route;
  /** It is what the route is set to now. */
  readonly kept: boolean;
}

const METHODS: readonly KernelName[] = ["floyd-steinberg", "jarvis-judice-ninke", "stucki", "atkinson"];
const STRENGTHS = [1, 0.92, 0.84, 0.76, 0.68];

/** Five variants of a route that differ in one setting; what is set now is always among them. */
export function variantsOf(route: Route, setting: StripSetting): Variant[] {
  const settings = settingsOf<BlackWhiteSettings>(route, "blackWhite");
  if (!settings) return [];
  return setting === "method" ? methods(route, settings) : strengths(route, settings);
}

function methods(route: Route, settings: BlackWhiteSettings): Variant[] {
  const { material } = settings;
  const scatter =
    settings.method === "scatter"
      ? settings
      : { method: "scatter", kernel: METHODS[0], strength: 1, serpentine: false, material };
  const now = settings.method === "scatter" ? settings.kernel : null;
  const kernels = now && !METHODS.includes(now) ? [...METHODS.slice(0, 3), now] : METHODS;
  const line = settings.method === "line" ? settings : { method: "line", threshold: "auto", material };
  return [
    ...kernels.map((kernel) => ({
      label: kernelTitle(kernel).split(",")[0],
      route: replaceSettings(route, "blackWhite", { ...scatter, kernel }),
      kept: kernel === now,
    })),
    { label: "Line", route: replaceSettings(route, "blackWhite", line), kept: settings.method === "line" },
  ];
}

function strengths(route: Route, settings: BlackWhiteSettings): Variant[] {
  if (settings.method !== "scatter") return [];
  const now = settings.strength;
  const values = STRENGTHS.includes(now) ? STRENGTHS : nearestReplaced(now);
  return values.map((strength) => ({
    label: `${Math.round(strength * 100)} %`,
    route: withSettings(route, "blackWhite", { strength }),
    kept: strength === now,
  }));
}

function nearestReplaced(now: number): number[] {
  const nearest = STRENGTHS.reduce((a, b) => (Math.abs(b - now) < Math.abs(a - now) ? b : a));
  return STRENGTHS.map((s) => (s === nearest ? now : s)).sort((a, b) => b - a);
}
