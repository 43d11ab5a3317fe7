import { cropReadings, partOfBits } from "@hardline/core/inspect/cropReadings";
import { drive, runToEnd } from "@hardline/core/maths/work";
import { type Bits, type Rect } from "@hardline/core/raster/types";
import { type Result } from "@hardline/core/result/result";
import { planOf, type Plan } from "@hardline/core/route/plan";
import { type Route } from "@hardline/core/route/route";
import { type Runner } from "@hardline/core/route/runner";
import { type ArtworkSource } from "@hardline/core/route/source";
import { RouteError } from "@hardline/core/settings/errors";
import { pause } from "./host";
import { type Pane, type Stripe } from "./protocol";
import { sightOf } from "./sight";
import { testPieceOf } from "./testPiece";

type Signal = { readonly aborted: boolean };

/** One variant of a strip: its picture, and what is read of its dots; or why it cannot be made. */
export async function stripeOf(
  runner: Runner,
  source: ArtworkSource,
  route: Route,
  pane: Pane,
  draw: (plan: Plan, result: Result) => Promise<ImageBitmap>,
  signal: Signal,
): Promise<Stripe> {
  try {
    const plan = planOf(route, source.facts);
    const { result } = await runner.result(plan, source, sightOf(plan, pane.stage).under, { signal });
    const readings =
      result.kind === "plates"
        ? await drive(cropReadings(result, pane.part, result.finish, route.checks.areaMm2), { signal, pause })
        : null;
    return { bitmap: await draw(plan, result), readings, fault: null };
  } catch (error) {
    if (error instanceof RouteError) return { bitmap: null, readings: null, fault: error.message };
    throw error;
  }
}

/** The dots of the same part of several routes with their labels, as one PNG; null where no route makes dots. */
export async function testPieceFor(
  runner: Runner,
  source: ArtworkSource,
  routes: readonly Route[],
  part: Rect,
  labels: readonly string[],
  title: string,
  signal: Signal,
): Promise<Uint8Array | null> {
  const parts: Bits[] = [];
  let dotsPerInch = 0;
  for (const route of routes) {
    const plan = planOf(route, source.facts);
    const dots = plan.steps.findLast((s) => s.stage.gives === "plates");
    if (!dots) continue;
    const { result } = await runner.result(plan, source, dots, { signal });
    if (result.kind !== "plates") continue;
    parts.push(partOfBits(result.plates[0].bits, part));
    ({ dotsPerInch } = result.finish);
  }
  if (parts.length === 0) return null;
  const { writeBitsPng } = await import("@hardline/core/format/png");
  return runToEnd(writeBitsPng(testPieceOf(parts, labels, title, dotsPerInch), dotsPerInch));
}
