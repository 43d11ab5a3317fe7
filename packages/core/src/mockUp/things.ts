import { apron } from "./things/apron";
import { bottle } from "./things/bottle";
import { cap } from "./things/cap";
import { childShirt } from "./things/childShirt";
import { coaster } from "./things/coaster";
import { doorPlate } from "./things/doorPlate";
import { hoodBack } from "./things/hoodBack";
import { hoodFront } from "./things/hoodFront";
import { keyTag } from "./things/keyTag";
import { longSleeve } from "./things/longSleeve";
import { mug } from "./things/mug";
import { signBoard } from "./things/signBoard";
import { teaTowel } from "./things/teaTowel";
import { toteBag } from "./things/toteBag";
import { tShirtBack } from "./things/tShirtBack";
import { tShirtFront } from "./things/tShirtFront";
import { vanSide } from "./things/vanSide";
import { type Drawn, type Thing } from "./thing";

/** Every thing that ships. A new one is one file and one line here. */
const ALL = [
  tShirtFront,
  tShirtBack,
  longSleeve,
  hoodFront,
  hoodBack,
  childShirt,
  cap,
  apron,
  toteBag,
  teaTowel,
  mug,
  bottle,
  coaster,
  keyTag,
  doorPlate,
  signBoard,
  vanSide,
] as const;

export type ThingId = (typeof ALL)[number]["id"];
export const THINGS: readonly Thing<ThingId>[] = ALL;
export const THING_IDS = ALL.map((t) => t.id) as [ThingId, ...ThingId[]];

export const thingOf = (id: ThingId): Thing<ThingId> => THINGS.find((t) => t.id === id)!;

const drawn = new Map<string, Drawn>();

/** A thing drawn in a size, once. */
export function drawnThing(id: ThingId, size: string): Drawn {
  const thing = thingOf(id);
  const own = thing.sizes.includes(size) ? size : (thing.sizes[0] ?? "");
  const name = `${id} ${own}`;
  if (!drawn.has(name)) drawn.set(name, thing.draw(own));
  return drawn.get(name)!;
}
