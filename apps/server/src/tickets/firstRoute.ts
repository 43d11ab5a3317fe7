import { plainStages } from "@hardline/contract";
import { readRoute, type Route } from "@hardline/core/route/route";

/** What a new ticket starts with until the operator decides. */
export const firstRoute = (artwork: { width: number; height: number; widthMm: number | null }): Route =>
  readRoute({
    format: "hard-line-route",
    version: 1,
    name: "First route",
    stages: plainStages(artwork),
  });
