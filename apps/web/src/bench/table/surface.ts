import { type MaterialView } from "@hardline/contract";
import { type Appearance } from "@hardline/core/appearance/onMaterial";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { settingsOf, type Route } from "@hardline/core/route/route";

/** A material as it is seen, and its name. */
export interface Surface {
  readonly name: string;
  readonly appearance: Appearance;
}

/** Another route of the ticket, that lies beside the one on the bench. */
export interface BesideRoute {
  readonly route: Route;
  readonly material: Surface | null;
  readonly backing: number;
  /** It lies under the wipe, left of its edge, and not beside: what either side is called. */
  readonly under?: readonly [left: string, right: string];
}

/** What a route's marks will lie on: its material, or, while it has none, a usual one that takes marks as it does. */
export function surfaceOf(route: Route, materials: readonly MaterialView[] | undefined): Surface {
  const known = materials?.find((m) => m.key === route.material);
  const pale = settingsOf(route, "blackWhite")?.material === "burns-pale";
  const material = known ?? USUAL_MATERIALS.find((m) => m.key === (pale ? "slate" : "pale-wood"))!;
  const { name, bareColour, markColour, grain, grainStrength, spreadMm } = material;
  return { name: name.toLowerCase(), appearance: { bareColour, markColour, grain, grainStrength, spreadMm } };
}
