import { settingsOf } from "@hardline/core/route/route";
import { type MockUpSettings } from "@hardline/core/stage/mockUp/settings";
import { type BenchScene } from "../face";

export type Print = MockUpSettings["prints"][number];

type Scene = Pick<BenchScene, "keeper" | "set">;

/** The prints as they are now, also between two drawings of the screen. */
const printsNow = ({ keeper }: Scene): readonly Print[] =>
  settingsOf(keeper.get().value, "mockUp")?.prints ?? [];

/** Changes one print of the mock-up. */
export const changePrint = (scene: Scene, index: number, change: Partial<Print>): void =>
  scene.set("mockUp", { prints: printsNow(scene).map((p, k) => (k === index ? { ...p, ...change } : p)) });

export const addPrint = (scene: Scene, print: Print): void =>
  scene.set("mockUp", { prints: [...printsNow(scene), print] });

export const removePrint = (scene: Scene, index: number): void =>
  scene.set("mockUp", { prints: printsNow(scene).filter((_, k) => k !== index) });
