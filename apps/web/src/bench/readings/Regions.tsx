import css from "./Regions.module.css";

/** How much is marked in each region of the piece, as it lies. */
export function Regions({ label, shares }: { label: string; shares: readonly number[] }) {
  const side = Math.round(Math.sqrt(shares.length));
  return (
    <figure className={css.figure}>
      <div
        className={`mono ${css.regions}`}
        role="img"
        aria-label={`${label}, percent, row by row: ${shares.map((s) => (s < 0 ? "no art" : s)).join(", ")}`}
        style={{ gridTemplateColumns: `repeat(${side}, 1fr)` }}
      >
        {shares.map((share, i) => (
          <span
            key={i}
            style={
              share < 0 ? undefined : { background: shade(share), color: share > 50 ? "#fff" : undefined }
            }
          >
            {share < 0 ? "–" : Math.round(share)}
          </span>
        ))}
      </div>
      <figcaption>{label}, %</figcaption>
    </figure>
  );
}

/** White to ink. */
const shade = (percent: number): string => {
  const at = (white: number, ink: number) => Math.round(white + ((ink - white) * percent) / 100);
  return `rgb(${at(255, 21)}, ${at(255, 24)}, ${at(255, 29)})`;
};
