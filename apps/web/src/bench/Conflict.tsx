import { type RouteView } from "@hardline/contract";
import { settingsOf, type Route } from "@hardline/core/route/route";
import { stageById, STAGES, type StageId } from "@hardline/core/stage/stages";
import { TwoVersions } from "../keeper/TwoVersions";
import { type RouteKeeper } from "./RouteKeeper";

/** Two operators changed one route. */
export function Conflict({ keeper, theirs, mine }: { keeper: RouteKeeper; theirs: RouteView; mine: Route }) {
  const words = (route: Route, id: StageId) => {
    const settings = settingsOf(route, id);
    return settings ? stageById(id).summary(settings) : "not on this route";
  };
  const rows = STAGES.filter((s) => !s.always)
    .map(({ id, title }) => [title, words(mine, id), words(theirs.route, id)] as const)
    .filter(([, here, there]) => here !== there);
  return (
    <TwoVersions
      what="This route"
      note="Nothing is lost: whichever you choose goes on, and the other stays among the revisions."
      there={`There, revision ${theirs.revision}`}
      {...{ keeper, rows }}
    />
  );
}
