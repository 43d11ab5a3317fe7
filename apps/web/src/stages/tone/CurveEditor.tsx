import { monotoneCurve, type CurvePoint } from "@hardline/core/tone/curve";
import { type Chart, type ChartOptions } from "chart.js";
import { useMemo, useRef, useState } from "react";
import { Line } from "react-chartjs-2";
import { heights } from "../../shared/chart";
import css from "./CurveEditor.module.css";

type Points = [number, number][];
const STEPS = 65;
const APART = 0.01;
const REACH = 14; // pixels within which a press takes hold of a point

const OPTIONS: ChartOptions<"line"> = {
  responsive: true,
  maintainAspectRatio: false,
  events: [],
  parsing: false,
  normalized: true,
  scales: {
    x: {
      type: "linear",
      min: 0,
      max: 1,
      ticks: { display: false, stepSize: 0.25 },
      grid: { color: "#e6e8e9" },
      border: { color: "#15181d" },
    },
    y: {
      min: 0,
      max: 1,
      ticks: { display: false, stepSize: 0.25 },
      grid: { color: "#e6e8e9" },
      border: { color: "#15181d" },
    },
  },
  layout: { padding: 5 },
};

interface Props {
  readonly curve: readonly CurvePoint[];
  readonly histogram: readonly number[] | null;
  readonly change: (curve: Points) => void;
  readonly name?: string;
  /** The two ends stay in their corners, and the curve only rises. */
  readonly fixedEnds?: boolean;
}

/** The tone curve over the histogram of what comes in: points to drag, from black at the left to white at the right. */
export function CurveEditor({ curve, histogram, change, name = "Tone curve", fixedEnds = false }: Props) {
  const chart = useRef<Chart<"line", { x: number; y: number }[]>>(null);
  const held = useRef<number | null>(null);
  const [chosen, setChosen] = useState(1);
  const before = useMemo(() => (histogram ? heights(histogram) : []), [histogram]);
  const line = useMemo(
    () => Array.from(monotoneCurve(curve, STEPS), (y, i) => ({ x: i / (STEPS - 1), y })),
    [curve],
  );
  const at = Math.min(chosen, curve.length - 1);

  const pixels = ([x, y]: CurvePoint): [number, number] => [
    chart.current!.scales.x.getPixelForValue(x),
    chart.current!.scales.y.getPixelForValue(y),
  ];
  const valueAt = (e: React.PointerEvent | React.MouseEvent): [number, number] => {
    const box = e.currentTarget.getBoundingClientRect();
    const x = chart.current!.scales.x.getValueForPixel(e.clientX - box.left)!;
    const y = chart.current!.scales.y.getValueForPixel(e.clientY - box.top)!;
    return [clamp(x), clamp(y)];
  };
  const pointUnder = (e: React.PointerEvent | React.MouseEvent): number => {
    const box = e.currentTarget.getBoundingClientRect();
    const distances = curve
      .map(pixels)
      .map(([x, y]) => Math.hypot(x - (e.clientX - box.left), y - (e.clientY - box.top)));
    const nearest = distances.indexOf(Math.min(...distances));
    return distances[nearest] <= REACH ? nearest : -1;
  };

  /** Moves a point, kept between its neighbours; the two ends may slide inwards too. */
  const move = (i: number, [x, y]: CurvePoint) => {
    if (fixedEnds && (i === 0 || i === curve.length - 1)) return;
    const points = curve.map(([px, py]): [number, number] => [px, py]);
    const low = i > 0 ? points[i - 1][0] + APART : 0;
    const high = i < points.length - 1 ? points[i + 1][0] - APART : 1;
    const [least, most] = fixedEnds ? [points[i - 1][1] + APART, points[i + 1][1] - APART] : [0, 1];
    points[i] = [round(Math.min(high, Math.max(low, x))), round(Math.min(most, Math.max(least, y)))];
    change(points);
  };
  const press = (e: React.PointerEvent) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    let i = pointUnder(e);
    if (i < 0) {
      const [x] = valueAt(e);
      if (curve.length >= 16 || curve.some(([px]) => Math.abs(px - x) < 2 * APART)) return;
      const y = monotoneCurve(curve, 1001)[Math.round(x * 1000)];
      const points = [
        ...curve.map(([px, py]): [number, number] => [px, py]),
        [round(x), round(y)] as [number, number],
      ].sort((a, b) => a[0] - b[0]);
      i = points.findIndex(([px]) => px === round(x));
      change(points);
    }
    held.current = i;
    setChosen(i);
  };
  const remove = (i: number) => {
    if (curve.length > 2 && i > 0 && i < curve.length - 1)
      change(curve.filter((_, k) => k !== i).map(([x, y]) => [x, y]));
  };

  return (
    <div
      className={css.editor}
      tabIndex={0}
      role="application"
      aria-label={`${name}, point ${at + 1} of ${curve.length} at ${Math.round(curve[at][0] * 100)} to ${Math.round(curve[at][1] * 100)} percent. Arrow keys move it, Tab keys leave, comma and full stop choose a point.`}
      onPointerDown={press}
      onPointerMove={(e) =>
        held.current !== null && held.current < curve.length && move(held.current, valueAt(e))
      }
      onPointerUp={() => (held.current = null)}
      onDoubleClick={(e) => remove(pointUnder(e))}
      onKeyDown={(e) => {
        const by = {
          ArrowLeft: [-0.01, 0],
          ArrowRight: [0.01, 0],
          ArrowUp: [0, 0.01],
          ArrowDown: [0, -0.01],
        }[e.key];
        if (by) move(at, [curve[at][0] + by[0], curve[at][1] + by[1]]);
        else if (e.key === ",") setChosen(Math.max(0, at - 1));
        else if (e.key === ".") setChosen(Math.min(curve.length - 1, at + 1));
        else if (e.key === "Delete") remove(at);
        else return;
        e.preventDefault();
      }}
    >
      <Line
        ref={chart}
        aria-label={histogram ? `${name} over the histogram` : name}
        options={OPTIONS}
        data={{
          datasets: [
            { data: line, borderColor: "#15181d", borderWidth: 2, pointRadius: 0 },
            {
              data: curve.map(([x, y]) => ({ x, y })),
              showLine: false,
              pointRadius: 5,
              pointBorderColor: "#15181d",
              pointBorderWidth: 1.5,
              pointBackgroundColor: curve.map((_, i) => (i === at ? "#15181d" : "#ffffff")),
              clip: false,
            },
            { data: before, borderWidth: 0, pointRadius: 0, fill: "origin", backgroundColor: "#c9cccf" },
          ],
        }}
      />
      <span className={`mono ${css.value}`}>
        {Math.round(curve[at][0] * 100)} → {Math.round(curve[at][1] * 100)} %
      </span>
    </div>
  );
}

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
const round = (v: number): number => Math.round(v * 1000) / 1000;
