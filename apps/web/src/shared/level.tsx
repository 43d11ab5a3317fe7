import { type Level } from "@hardline/core/inspect/check";
import css from "./level.module.css";

/** Filled dot, ring or square: a level has a shape as well as a colour. */
export const LevelMark = ({ level }: { level: Level | "none" }) => (
  <span
    className={`${css.mark} ${css[level]}`}
    role="img"
    aria-label={level === "none" ? "not checked" : level}
  />
);
