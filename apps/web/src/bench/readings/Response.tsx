import { type ChartOptions } from "chart.js";
import { useMemo } from "react";
import { Line } from "react-chartjs-2";
import "../../shared/chart";
import css from "./Histograms.module.css";

const AXIS = {
  type: "linear" as const,
  min: 0,
  max: 100,
  ticks: { stepSize: 50, color: "#4d525a", callback: (v: string | number) => `${v}` },
  grid: { color: "#e6e8e9" },
  border: { color: "#15181d" },
};
const OPTIONS: ChartOptions<"line"> = {
  responsive: true,
  maintainAspectRatio: false,
  events: [],
  parsing: false,
  normalized: true,
  scales: { x: AXIS, y: AXIS },
};

/** Tone in, from white to black, against the tone that comes out: straight is what is wanted. */
export function Response({ label, shares }: { label: string; shares: readonly number[] }) {
  const data = useMemo(
    () => ({
      datasets: [
        {
          data: shares.map((y, k) => ({ x: (100 * k) / (shares.length - 1), y })),
          borderColor: "#15181d",
          borderWidth: 1.6,
          pointRadius: 0,
        },
        {
          data: [
            { x: 0, y: 0 },
            { x: 100, y: 100 },
          ],
          borderColor: "#9aa0a6",
          borderWidth: 1,
          borderDash: [3, 3],
          pointRadius: 0,
        },
      ],
    }),
    [shares],
  );
  return (
    <figure className={css.figure}>
      <div className={css.response}>
        <Line options={OPTIONS} data={data} aria-label="Tone in against tone out, in percent of black" />
      </div>
      <figcaption>
        <span>
          <i className={css.line} /> {label}
        </span>
        <span>by tone wanted, %</span>
      </figcaption>
    </figure>
  );
}
