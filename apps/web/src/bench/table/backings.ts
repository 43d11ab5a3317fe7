import { settingsOf, type Route } from "@hardline/core/route/route";
import { rowOf } from "../../stages/faces";

export interface Backing {
  readonly name: string;
  readonly colour: number;
}

/** Colours to lay behind the art, in the order in which the key steps through them. */
export const BACKINGS: readonly Backing[] = [
  { name: "white", colour: 0xffffff },
  { name: "slate", colour: 0x3a3d42 },
  { name: "amber", colour: 0xdfa022 },
  { name: "teal", colour: 0x2a9d94 },
  { name: "magenta", colour: 0xd43a7a },
];

/** The backing that suits a route best: the last of its stages that has a wish decides. */
export function backingName(route: Route): string {
  const wished = route.stages.flatMap(
    ({ stage }) => rowOf(stage).face.backing?.(settingsOf(route, stage)!) ?? [],
  );
  return wished[wished.length - 1] ?? BACKINGS[0].name;
}
