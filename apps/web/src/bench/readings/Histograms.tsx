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

export interface Series {
  readonly label: string;
  /** An area; or else a line. */
  readonly filled: boolean;
  readonly counts: readonly number[];
}

/** How often each tone is there, black at the left: some series filled, others as lines over them. */
export function Histograms({ series }: { series: readonly Series[] }) {
  const data = useMemo(
    () => ({
      // What comes first is drawn on top.
      datasets: [...series]
        .sort((a, b) => Number(a.filled) - Number(b.filled))
        .map(({ filled, counts }) =>
          filled
            ? {
                data: heights(counts),
                borderWidth: 0,
                pointRadius: 0,
                fill: "origin",
                backgroundColor: "#c9cccf",
              }
            : { data: heights(smoothed(counts)), borderColor: "#15181d", borderWidth: 1.3, pointRadius: 0 },
        ),
    }),
    [series],
  );
  return (
    <figure className={css.figure}>
      <div className={css.chart}>
        <Line
          options={OPTIONS}
          data={data}
          aria-label={`Histogram: ${series.map((s) => s.label).join(", ")}`}
        />
      </div>
      <figcaption>
        {series.map(({ label, filled }) => (
          <span key={label}>
            <i className={filled ? css.filled : css.line} /> {label}
          </span>
        ))}
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
