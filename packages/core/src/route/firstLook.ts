import { drive } from "../maths/work";
import { halvesKept } from "../raster/keptHalves";
import { turnedSize } from "../turn/turn";
import { asItIs } from "../result/finish";
import { lessPlace } from "../result/reduce";
import { uprightOf } from "../stage/artwork/artwork";
import { type Plan } from "./plan";
import { type Runner } from "./runner";
import { type ArtworkFacts, type ArtworkSource } from "./source";

/** How many times halved an artwork is read for a first look of so many pixels at most; 0 where it is read whole. */
export function firstLookTimes({ width, height, vector }: ArtworkFacts, mostPixels: number): number {
  if (vector) return 0;
  const most = halvesKept(width, height);
  let times = Math.min(1, most);
  while (times < most && (width >> times) * (height >> times) > mostPixels) times++;
  return times;
}

/**
 * Has the runner take up the artwork at a fraction of its size, where it is kept so: drafts are made of that until the
 * whole is there. They are the drafts that would be made of the whole, or of less.
 *
 * @param mostPixels  the largest kept half of no more pixels is read
 */
export async function readFirstLook(
  runner: Runner,
  plan: Plan,
  source: ArtworkSource,
  mostPixels: number,
  pause?: () => Promise<void>,
): Promise<void> {
  const [artwork] = plan.steps;
  const times = firstLookTimes(plan.facts, mostPixels);
  if (times === 0 || !source.halved || runner.kept(artwork) || runner.halved(artwork)) return;
  const picture = await drive(uprightOf(await source.halved(times), plan.turn), { pause });
  const { finish, frame } = lessPlace(asItIs(turnedSize(plan.facts, plan.turn)), { kind: "halves", times });
  const [widthPx, heightPx] = [picture.colour.width, picture.colour.height];
  runner.putHalved(artwork, { ...picture, finish: { ...finish, widthPx, heightPx }, frame });
}
