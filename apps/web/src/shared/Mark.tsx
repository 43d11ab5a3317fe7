import css from "./Mark.module.css";

/** Whose program this is. */
export const Mark = () => (
  <span className={css.mark}>
    <span className={css.sign} aria-hidden />
    HARD LINE
  </span>
);
