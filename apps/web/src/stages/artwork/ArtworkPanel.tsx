import { plainStages } from "@hardline/contract/constants";
import { proposalsFor, readingWords, type Proposal } from "@hardline/core/reading/proposal";
import { readRoute } from "@hardline/core/route/route";
import { Select } from "../../shared/fields/controls";
import { useState } from "react";
import { useHouseRoutes } from "../../api/house";
import css from "../../shared/fields/Field.module.css";
import { type PanelProps } from "../face";

const million = (n: number): string => (n / 1e6).toFixed(1);

/** What the customer sent: it is kept byte for byte and never altered. */
export function ArtworkPanel({ scene: { ticket, route, keeper } }: PanelProps) {
  const { artwork } = ticket;
  const { id, name, kind, width, height, bytes, vector, notes, reading } = artwork;
  const proposals = reading ? proposalsFor(reading, artwork) : [];
  const { data: house = [] } = useHouseRoutes();
  const [at, setAt] = useState(0);
  const proposal = proposals[Math.min(at, proposals.length - 1)];
  /** Puts a proposed route in the place of this one; null: a plain one. */
  const take = (proposed: Proposal | null) =>
    keeper.change(readRoute({ ...route, stages: proposed ? proposed.stages : plainStages(artwork) }));
  const lines = [
    `${kind}, ${bytes < 1e5 ? `${(bytes / 1000).toFixed(1)} kB` : `${million(bytes)} MB`}`,
    vector
      ? "Shapes: drawn at the finish resolution"
      : `${width} × ${height}, ${million(width * height)} million pixels`,
    ...notes.filter((n) => n !== "drawn from shapes"),
  ];
  return (
    <>
      <p className={css.note}>
        <b>{name}</b>
      </p>
      {lines.map((line) => (
        <p key={line} className={css.note}>
          {line}
        </p>
      ))}
      {reading && (
        <ul className={css.read} aria-label="What was read of it">
          {readingWords(reading, artwork).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {proposal && (
        <>
          <Select
            aria-label="Proposed route"
            data={proposals.map((p, i) => ({ value: String(i), label: p.title }))}
            value={String(at)}
            allowDeselect={false}
            onChange={(v) => setAt(Number(v))}
          />
          <dl className={css.reasons}>
            {proposal.reasons.map((r) => (
              <div key={`${r.stage} ${r.decided}`}>
                <dt>
                  {r.stage}: {r.decided}
                </dt>
                <dd>{r.why}</dd>
              </div>
            ))}
          </dl>
          <div className={css.pair}>
            <button type="button" className={css.take} onClick={() => take(proposal)}>
              Take this route
            </button>
            <button type="button" className={css.link} onClick={() => take(null)}>
              Start plain
            </button>
          </div>
        </>
      )}
      {house.length > 0 && (
        <Select
          aria-label="House route"
          placeholder="Begin with a house route"
          data={house.map((h) => ({ value: h.id, label: h.name }))}
          value={null}
          onChange={(v) => {
            const chosen = house.find((h) => h.id === v);
            if (chosen) keeper.change({ ...chosen.route, name: route.name });
          }}
        />
      )}
      <p className={css.note}>
        <a className={css.link} href={`/api/artworks/${id}/original`} download>
          Download as it was sent
        </a>
      </p>
    </>
  );
}
