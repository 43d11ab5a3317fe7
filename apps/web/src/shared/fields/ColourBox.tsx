import css from "./ColourBox.module.css";

interface Props {
  readonly label: string;
  /** #rrggbb */
  readonly colour: string;
  readonly change: (colour: string) => void;
}

/** A colour to choose, with its number. */
export const ColourBox = ({ label, colour, change }: Props) => (
  <span className={css.colour}>
    <input type="color" aria-label={label} value={colour} onChange={(e) => change(e.target.value)} />
    <b className="mono">{colour}</b>
  </span>
);
