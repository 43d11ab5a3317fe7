import { CategoryScale, Chart, Filler, LinearScale, LineElement, PointElement } from "chart.js";

Chart.register(LinearScale, CategoryScale, LineElement, PointElement, Filler);
Chart.defaults.animation = false;
Chart.defaults.font.family = '"IBM Plex Mono", monospace';
Chart.defaults.font.size = 10;

/** Histogram counts as heights 0..1: the square root keeps a few tall values from hiding the rest. */
export function heights(counts: readonly number[]): { x: number; y: number }[] {
  const most = Math.sqrt(Math.max(1, ...counts.slice(1, 255)));
  return counts.map((n, g) => ({ x: g / 255, y: Math.min(1, Math.sqrt(n) / most) }));
}
