import { z } from "zod";
import { routeErrorOf } from "../settings/errors";

/** How a job is run on a machine, as far as the job itself does not say. */
export const runWish = z.strictObject({
  /** Where the top left of the piece lies on the bed, in mm; left out, as far up and left as the head's run-up allows. */
  at: z.tuple([z.number().min(-100).max(100000), z.number().min(-100).max(100000)]).optional(),
  /** Of a bitmap: percent of full power, and mm a second where it is not to be the machine's own. */
  power: z.number().min(0.1).max(100).default(60),
  mmPerS: z.number().min(0.1).max(5000).optional(),
  /** Rows run there and back; otherwise each from left to right. */
  bothWays: z.boolean().default(true),
  /** Names of the passes that are run; all when left out. */
  passes: z.array(z.string().max(80)).min(1).max(200).optional(),
});
export type RunWish = z.output<typeof runWish>;

/** @throws RouteError that names the setting, the value and what is allowed */
export function readRunWish(json: unknown): RunWish {
  const read = runWish.safeParse(json);
  if (!read.success) throw routeErrorOf("run", read.error, json);
  return read.data;
}

/** Whether a pass is to be run. */
export const isWished = ({ passes }: Pick<RunWish, "passes">, name: string): boolean =>
  !passes || passes.includes(name);
