import { type Route, type RouteStage } from "@hardline/core/route/route";

/** A route on its way to a worker: stages that the worker has from last time are only named. */
export interface PackedRoute extends Omit<Route, "stages"> {
  readonly stages: readonly (RouteStage | { readonly stage: RouteStage["stage"]; readonly asBefore: true })[];
}

/*
 * A stage's settings may hold thousands of strokes, and most changes leave them as they are. So an entry that the
 * other side has is not sent again; and as it is the very same object there too, what was learned of it still holds.
 */

/** The sending side. Everything packed must be sent, in order. */
export class Packer {
  private readonly sent = new Map<string, RouteStage>();

  pack(route: Route): PackedRoute {
    const stages = route.stages.map((entry) => {
      if (this.sent.get(entry.stage) === entry) return { stage: entry.stage, asBefore: true as const };
      this.sent.set(entry.stage, entry);
      return entry;
    });
    return { ...route, stages };
  }
}

/** The side that receives. */
export class Unpacker {
  private readonly had = new Map<string, RouteStage>();

  unpack(packed: PackedRoute): Route {
    const stages = packed.stages.map((entry) => {
      if (!("asBefore" in entry)) this.had.set(entry.stage, entry);
      return this.had.get(entry.stage)!;
    });
    return { ...packed, stages };
  }
}
