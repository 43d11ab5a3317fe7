import { type RouteView } from "@hardline/contract";
import { type Route } from "@hardline/core/route/route";
import { canonical } from "@hardline/core/settings/canonical";
import { Keeper, type Kept, type KeepingServer, type Shelf } from "../keeper/Keeper";

export type KeptRoute = Kept<Route, RouteView>;

/** How the keeper of a route reaches the server. */
export interface RouteServer extends KeepingServer<Route, RouteView> {
  readonly undo: (version: number) => Promise<RouteView>;
  readonly redo: (version: number) => Promise<RouteView>;
}

/** Keeps one route safe: every save is a revision, and the hand can go back to an earlier one. */
export class RouteKeeper extends Keeper<Route, RouteView> {
  constructor(
    view: RouteView,
    private readonly routes: RouteServer,
    shelf: Shelf,
  ) {
    super(ROUTES, view, routes, shelf);
  }

  undo(): Promise<void> {
    return this.step((version) => this.routes.undo(version));
  }

  redo(): Promise<void> {
    return this.step((version) => this.routes.redo(version));
  }
}

const ROUTES = {
  name: "route",
  valueOf: (view: RouteView) => view.route,
  withValue: (view: RouteView, route: Route) => ({ ...view, route }),
  isSame,
};

/** Stages that nobody touched are the very same; only others have to be compared. */
function isSame(a: Route, b: Route): boolean {
  if (a === b) return true;
  const { stages: own, ...rest } = a;
  const { stages: other, ...others } = b;
  return (
    own.length === other.length &&
    own.every((s, k) => s === other[k] || canonical(s) === canonical(other[k])) &&
    canonical(rest) === canonical(others)
  );
}
