import { type RouteView } from "@hardline/contract";
import { type Route } from "@hardline/core/route/route";
import { mergeRoutes } from "@hardline/core/route/merge";
import { canonical } from "@hardline/core/settings/canonical";
import { Keeper, type Kept, type KeepingServer, type Shelf } from "../keeper/Keeper";

export type KeptRoute = Kept<Route, RouteView>;

/** How the keeper of a route reaches the server. */
export interface RouteServer extends KeepingServer<Route, RouteView> {
  readonly undo: (version: number) => Promise<RouteView>;
  readonly redo: (version: number) => Promise<RouteView>;
  readonly bringBack: (revision: number, version: number) => Promise<RouteView>;
}

/** Keeps one route safe: every save is a revision, and the hand can go back to an earlier one. */
export class RouteKeeper extends Keeper<Route, RouteView> {
  constructor(
    view: RouteView,
    private readonly routes: RouteServer,
    shelf: Shelf,
    /** Whether whoever is here may change it; tells that one where not. */
    private readonly mayChange: () => boolean = () => true,
  ) {
    super(ROUTES, view, routes, shelf);
  }

  override change(route: Route): void {
    if (this.mayChange()) super.change(route);
  }

  undo(): Promise<void> {
    return this.step((version) => this.routes.undo(version));
  }

  redo(): Promise<void> {
    return this.step((version) => this.routes.redo(version));
  }

  /** Goes on from an old revision, as a new one. */
  bringBack(revision: number): Promise<void> {
    return this.step((version) => this.routes.bringBack(revision, version));
  }
}

const ROUTES = {
  name: "route",
  valueOf: (view: RouteView) => view.route,
  withValue: (view: RouteView, route: Route) => ({ ...view, route }),
  isSame,
  merged: (base: Route, mine: Route, theirs: Route) => mergeRoutes(base, mine, theirs).route,
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
