import { type Finish } from "@hardline/core/result/finish";
import { type Placed } from "../../table/geometry";
import css from "./LightTable.module.css";

/** The last picture of a piece where the new one will be. */
export function StandIn({ placed, finish, src }: { placed: Placed; finish: Finish; src: string }) {
  const { x, y, zoom } = placed;
  const [width, height] = [finish.widthPx * zoom, finish.heightPx * zoom];
  return (
    <img
      className={css.standIn}
      style={{ left: x, top: y, width, height }}
      {...{ src, alt: "" }}
      data-stand-in
    />
  );
}
