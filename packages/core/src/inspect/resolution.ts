import { MM_PER_INCH } from "../maths/units";
import { type Finish } from "../result/finish";
import { type ArtworkFacts } from "../route/source";
import { figure, type Check } from "./check";

/** Pixels the artwork has for each inch of the finished piece; shapes have as many as there are dots. */
export const sourcePerInch = (facts: ArtworkFacts, finish: Finish): number =>
  facts.vector ? finish.dotsPerInch : facts.width / (finish.widthMm / MM_PER_INCH);

/** Has the artwork the pixels that the finish size needs? Fine from one pixel a dot, a look from half. */
export function checkResolution(facts: ArtworkFacts, finish: Finish): Check {
  const has = sourcePerInch(facts, finish);
  const share = has / finish.dotsPerInch;
  const level = share >= 0.995 ? "fine" : share >= 0.5 ? "look" : "stop";
  const figures = `${figure(has, 0)} per inch for ${figure(finish.dotsPerInch)} needed.`;
  const enough = figure((facts.width / finish.dotsPerInch) * MM_PER_INCH, 0);
  return {
    id: "resolution",
    level,
    value: Math.round(has * 10) / 10,
    unit: "px/in",
    text:
      level === "fine"
        ? "Source is sharp enough"
        : level === "look"
          ? "Source is a little coarse"
          : "Source has too few pixels",
    detail: facts.vector
      ? "Drawn from shapes at the finish resolution."
      : level === "fine"
        ? figures
        : `${figures} Enough for ${enough} mm wide.`,
    places: [],
  };
}

/** Dots made at another resolution than the machine's are resampled by it, which ruins them. */
export function checkMachineResolution(finish: Finish, machine: number): Check {
  const { dotsPerInch } = finish;
  const same = Math.abs(dotsPerInch - machine) < 0.005 * machine;
  return {
    id: "machineResolution",
    level: same ? "fine" : "stop",
    value: Math.round(dotsPerInch * 100) / 100,
    unit: "dots/in",
    text: same ? "Finish fits the machine" : "Finish is not the machine's resolution",
    detail: same
      ? `Both at ${figure(machine)} dots per inch.`
      : `${figure(dotsPerInch)} dots per inch for a machine that runs at ${figure(machine)}: it would resample the dots.`,
    places: [],
  };
}
