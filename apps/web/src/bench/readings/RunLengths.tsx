import { BarController, BarElement, Chart, type ChartOptions } from "chart.js";
import { useMemo } from "react";
import { Bar } from "react-chartjs-2";
import "../../shared/chart";
import css from "./Histograms.module.css";

Chart.register(BarController, BarElement);

/** Longer runs than this are shown together. */
const SHOWN = 16;

const OPTIONS: ChartOptions<"bar"> = {
  responsive: true,
  maintainAspectRatio: false,
  events: [],
  scales: {
    x: { ticks: { color: "#4d525a", maxRotation: 0, autoSkipPadding: 4 }, grid: { display: false } },
    y: { display: false },
  },
};

interface Series {
  readonly label: string;
  readonly counts: readonly number[];
}

const COLOURS = ["#15181d", "#b9bdc1"];

/** How many runs of marks and of gaps there are of each length: what is too fine stands at the left. */
export function RunLengths({ series }: { series: readonly Series[] }) {
  const data = useMemo(() => {
    const folded = series.map(({ counts }) => {
      const long = counts.slice(SHOWN - 1).reduce((a, b) => a + b, 0);
      return [...counts.slice(0, SHOWN - 1), long].map((n) => Math.sqrt(n));
    });
    return {
      labels: Array.from({ length: SHOWN }, (_, k) => (k === SHOWN - 1 ? `${SHOWN}+` : `${k + 1}`)),
      datasets: series.map(({ label }, k) => ({ label, data: folded[k], backgroundColor: COLOURS[k] })),
    };
  }, [series]);
  return (
    <figure className={css.figure}>
      <div className={css.chart}>
        <Bar options={OPTIONS} data={data} aria-label="Lengths of runs in dots, marks and gaps" />
      </div>
      <figcaption>
        {series.map(({ label }, k) => (
          <span key={label}>
            <i className={css.swatch} style={{ background: COLOURS[k] }} /> {label}
          </span>
        ))}
        <span>run length, dots</span>
      </figcaption>
    </figure>
  );
}
