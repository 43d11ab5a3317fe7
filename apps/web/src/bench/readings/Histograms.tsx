import { type ChartOptions } from "chart.js";
import { useMemo } from "react";
import { Line } from "react-chartjs-2";
import { heights } from "../../shared/chart";
import css from "./Histograms.module.css";

const OPTIONS: ChartOptions<"line"> = {
  responsive: true,
  maintainAspectRatio: false,
  events: [],
  parsing: false,
  normalized: true,
  scales: {
    x: { type: "linear", min: 0, max: 1, display: false },
    y: { min: 0, max: 1.04, display: false },
  },
};

/** Tones before Tone, filled, and after it, as a line; black at the left. */
export function Histograms({ before, after }: { before: readonly number[]; after: readonly number[] }) {
  const data = useMemo(
    () => ({
      datasets: [
        { data: heights(smoothed(after)), borderColor: "#15181d", borderWidth: 1.3, pointRadius: 0 },
        { data: heights(before), borderWidth: 0, pointRadius: 0, fill: "origin", backgroundColor: "#c9cccf" },
      ],
    }),
    [before, after],
  );
  return (
    <figure className={css.figure}>
      <div className={css.chart}>
        <Line options={OPTIONS} data={data} />
      </div>
      <figcaption>
        <span>
          <i className={css.filled} /> before
        </span>
        <span>
          <i className={css.line} /> after Tone
        </span>
      </figcaption>
    </figure>
  );
}

/** A curve that stretches tones leaves gaps between them; the line goes over their mean. */
function smoothed(counts: readonly number[]): number[] {
  return counts.map((_, g) => {
    const around = counts.slice(Math.max(0, g - 3), g + 4);
    return around.reduce((a, b) => a + b, 0) / around.length;
  });
}
