import { type RouteView } from "@hardline/contract";
import { withSettings } from "@hardline/core/route/route";
import { ask } from "../harness";
import { sleep } from "./table";

/** An operator at one route: changes it again and again, and remembers what was acknowledged. */
export class Operator {
  readonly acknowledged: number[] = [];
  readonly took: number[] = [];
  refused = 0;
  private view!: RouteView;
  private stopped = false;

  constructor(
    private readonly url: () => string,
    private readonly routeId: string,
    private readonly restMs: () => number,
  ) {}

  /** @param first  value of the first change; each later one is a step higher, so none comes twice */
  async work(first: number): Promise<void> {
    for (let n = 0; !this.stopped; n++) {
      await sleep(this.restMs());
      const black = Math.round((first + n * 1e-5) * 1e6) / 1e6;
      try {
        this.view ??= await ask<RouteView>(`${this.url()}/api/routes/${this.routeId}`);
        const route = withSettings(this.view.route, "tone", { black });
        const began = performance.now();
        this.view = await ask<RouteView>(`${this.url()}/api/routes/${this.routeId}`, "PUT", {
          version: this.view.version,
          route,
        });
        this.took.push(performance.now() - began);
        this.acknowledged.push(black);
      } catch {
        this.refused++;
        this.view = undefined as unknown as RouteView; // looked up anew, as the bench does
      }
    }
  }

  stop(): void {
    this.stopped = true;
  }
}
