import { type Paths } from "../../result/result";
import { type Check } from "../check";

const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? "" : "s"}`;

/** What was too small to be followed, and where: worth a look before it is gone. */
export function checkDropped({ dropped }: Pick<Paths, "dropped">): Check {
  const { specks, pinholes, places = [] } = dropped ?? { specks: 0, pinholes: 0 };
  const said = [
    ...(specks > 0 ? [counted(specks, "speck")] : []),
    ...(pinholes > 0 ? [counted(pinholes, "pinhole")] : []),
  ];
  return {
    id: "droppedSpecks",
    level: "fine",
    value: specks + pinholes,
    unit: "shapes",
    text: said.length > 0 ? `${said.join(" and ")} dropped` : "Nothing was too small",
    detail: said.length > 0 ? "Smaller than the sizes set." : "All that is dark is followed.",
    places,
  };
}
