import { roundKnots } from "../../path/outline";
import { flat } from "../flat";
import { defineThing, ETCHED } from "../thing";

export const coaster = defineThing({
  ...{ id: "coaster", title: "Coaster", group: "Small things" },
  ...{ stuff: "wood", colour: "#d9b98a", ink: "etched", etched: ETCHED.wood, sizes: [] },
  draw: () =>
    flat({
      ...{ widthMm: 95, heightMm: 95 },
      outline: { knots: roundKnots(0, 0, 95, 95), closed: true },
      origin: [47.5, 0],
      limits: { x: -38, y: 9.5, width: 76, height: 76 },
      places: [{ name: "middle", area: "Front", at: [0, 15] }],
      more: { rounded: { mm: 3, shade: 0.7 } },
    }),
});
