import { type RegisteredStage } from "../stage/stages";
import { RouteError } from "../settings/errors";

/** For each step of a route and each of its ports: the number of the step that it takes from. */
export type Wiring = readonly Readonly<Record<string, number>>[];

/**
 * Finds for each port the nearest earlier stage that gives what it takes.
 * @throws RouteError when there is none
 */
export function wired(
  steps: readonly { readonly stage: RegisteredStage; readonly settings: object }[],
): Wiring {
  return steps.map(({ stage, settings }, at) => {
    const ports = stage.takes(settings);
    return Object.fromEntries(
      Object.entries(ports).map(([name, kinds]) => {
        let from = at - 1;
        while (from >= 0 && !kinds.includes(steps[from].stage.gives)) from--;
        if (from < 0)
          throw new RouteError(
            stage.id,
            name,
            undefined,
            `a stage before it that gives ${kinds.join(" or ")}`,
          );
        return [name, from];
      }),
    );
  });
}
