import { thirds } from "@hardline/core/paper/curled";
import { type FoundPaper } from "@hardline/core/paper/findPaper";
import { type Paper } from "@hardline/core/paper/settings";
import { settingsOf } from "@hardline/core/route/route";
import { routeTurnedBy } from "@hardline/core/route/turning";
import { tellFault } from "../../../shared/tell";
import { type BenchScene } from "../../face";

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
    /** Takes what was found; where nothing was, there are corners to begin with. */
    begin(found: FoundPaper | null): void {
      const corners = (found ? found.corners.map(rounded) : WITHIN) as Paper["corners"];
      put({ corners, lens: Math.round((found?.lens ?? 0) * 1e4) / 1e4, light: false });
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
