import { z } from "zod";
import { figure } from "../inspect/check";
import { RouteError, routeErrorOf } from "../settings/errors";
import { type CurvePoint } from "../tone/curve";

/** Steps nearer to each other than this are one step, in percent: readings have one decimal (`wedge.test.ts`). */
const LEAST_STEP = 0.1;

const percent = z.number().min(0).max(100);
const readings = z.strictObject({
  readings: z
    .array(z.tuple([percent, percent]))
    .min(3)
    .max(64),
});

/**
 * Readings that somebody typed: percent made and percent seen, in any order.
 *
 * @returns share made and share seen, 0..1, by rising share
 * @throws RouteError that names the reading and what is allowed
 */
export function readReadings(json: unknown): CurvePoint[] {
  const read = readings.safeParse({ readings: json });
  if (!read.success) throw routeErrorOf("wedge", read.error, { readings: json });
  const given = read.data.readings
    .map(([made, seen]): CurvePoint => [made / 100, seen / 100])
    .sort((a, b) => a[0] - b[0]);
  const twice = given.find(([made], k) => k > 0 && made - given[k - 1][0] < LEAST_STEP / 100 - 1e-12);
  if (twice)
    throw new RouteError(
      ...(["wedge", "readings", json] as const),
      `each step once; ${figure(100 * twice[0], 2)} % is there twice, or nearer than ${LEAST_STEP} % to another`,
    );
  return given;
}
