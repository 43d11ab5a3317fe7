import { type Level, type Place } from "@hardline/core/inspect/check";
import { type Finish } from "@hardline/core/result/finish";
import css from "./LightTable.module.css";
import { type Placed } from "../../table/geometry";

const LEAST = 8;
/** As many as the column lists; more would hide the picture. */
export const MOST_TAGS = 12;

/** Numbered tags on the places that a check found. */
export function PlaceTags({
  placed,
  finish,
  places,
  level,
}: {
  placed: Placed;
  finish: Finish;
  places: readonly Place[];
  level: Level;
}) {
  const perMm = placed.width / finish.widthMm;
  return places.slice(0, MOST_TAGS).map(({ xMm, yMm, widthMm, heightMm }, i) => {
    const width = Math.max(LEAST, widthMm * perMm);
    const height = Math.max(LEAST, heightMm * perMm);
    const style = {
      left: placed.x + (xMm + widthMm / 2) * perMm - width / 2,
      top: placed.y + (yMm + heightMm / 2) * perMm - height / 2,
      width,
      height,
    };
    return (
      <div key={i} className={`${css.tag} ${css[level]}`} style={style}>
        <b>{i + 1}</b>
      </div>
    );
  });
}
