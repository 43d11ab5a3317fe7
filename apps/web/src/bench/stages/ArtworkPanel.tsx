import { type ArtworkView } from "@hardline/contract";
import css from "./Field.module.css";

const million = (n: number): string => (n / 1e6).toFixed(1);

/** What the customer sent: it is kept byte for byte and never altered. */
export function ArtworkPanel({ artwork }: { artwork: ArtworkView }) {
  const { id, name, kind, width, height, bytes, vector, notes } = artwork;
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
      <p className={css.note}>
        <a className={css.link} href={`/api/artworks/${id}/original`} download>
          Download as it was sent
        </a>
      </p>
    </>
  );
}
