import { settingsOf } from "@hardline/core/route/route";
import { type PhotoThing } from "@hardline/core/stage/mockUp/settings";
import { type BenchScene } from "../../face";
import { isSeen } from "./area";

type Scene = Pick<BenchScene, "keeper" | "set">;

/** The photograph that the mock-up is on as it is now, also between two drawings of the screen; null where it is on none. */
export function photoNow({ keeper }: Scene): PhotoThing | null {
  const thing = settingsOf(keeper.get().value, "mockUp")?.thing;
  return thing && typeof thing === "object" ? thing : null;
}

/** Changes how a photograph is read. Places that no camera can have seen so are not taken. */
export function changePhoto(scene: Scene, change: Partial<PhotoThing>): void {
  const now = photoNow(scene);
  if (!now) return;
  const thing = { ...now, ...change };
  if (isSeen(thing)) scene.set("mockUp", { thing });
}
