import { thirds } from "@hardline/core/paper/curled";
import { type Paper } from "@hardline/core/paper/settings";
import { settingsOf } from "@hardline/core/route/route";
import { routeTurnedBy } from "@hardline/core/route/turning";
import { answered } from "../../../shared/answered";
import { tellFault } from "../../../shared/tell";
import { type BenchScene } from "../../face";
import { foundOn } from "./photograph";

export type Place = Paper["corners"][number];

/** Where corners stand when nothing was found: a little within the picture's own. */
const WITHIN: Paper["corners"] = [
  [0.1, 0.1],
  [0.9, 0.1],
  [0.9, 0.9],
  [0.1, 0.9],
];

/** A paper's settings as something that can be changed. All that is placed by hand on the picture follows. */
export function paperOf({ route, keeper, ticket }: Pick<BenchScene, "route" | "keeper" | "ticket">) {
  const paper = settingsOf(route, "size")!.paper;
  const put = (next: Paper | undefined): void => {
    try {
      keeper.change(routeTurnedBy(keeper.get().value, { paper: next }, ticket.artwork));
    } catch (error) {
      tellFault("The paper cannot be made flat so", error);
    }
  };
  return {
    paper,
    put,
    change: (some: Partial<Paper>) => paper && put({ ...paper, ...some }),
    /** Corners and lens as they are found; where nothing is, corners to begin with. @returns whether something was */
    async find(photograph: ImageBitmap): Promise<boolean> {
      const found = await answered(foundOn(photograph), "The paper's corners could not be looked for");
      if (!found && paper) return false;
      const kept = paper ? { proportion: paper.proportion, light: paper.light } : { light: false };
      const corners =
        (found?.corners.map(([u, v]) => rounded([u, v])) as Paper["corners"] | undefined) ?? WITHIN;
      put({ ...kept, corners, lens: Math.round((found?.lens ?? 0) * 1e4) / 1e4 });
      return found !== null && found !== undefined;
    },
  };
}

export const rounded = ([u, v]: readonly [number, number]): Place =>
  [u, v].map((x) => Math.min(1.5, Math.max(-0.5, Math.round(x * 1e6) / 1e6))) as Place;

/** The edges of curled paper as they begin: straight. */
export function straightEdges({ corners: [a, b, c, d] }: Paper): NonNullable<Paper["curled"]> {
  const [top, foot] = [thirds(a, b), thirds(d, c)].map((edge) => edge.map(rounded) as [Place, Place]);
  return { top, foot };
}
