import { settingsOf, type Route } from "@hardline/core/route/route";
import { spreadOf, stepsTyped, type Axis } from "@hardline/core/spread/spread";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import { useEffect, useRef, useState } from "react";
import { settingAround, type Named } from "../../shared/fields/Field";
import { useKeysSetting } from "../../shared/keys";

/** Settings that are spread out: one, or two that make a grid. */
export type Axes = readonly Axis[];

/** What a route's last stage with ways of its own spreads first; null when there is nothing. */
export function usualAxis(route: Route): Axis | null {
  const found = route.stages.findLast(({ stage }) => stageById(stage).variants);
  if (!found) return null;
  const [{ id, title }] = stageById(found.stage).variants!;
  return { stage: found.stage, path: id, title };
}

/** What is spread out now, and the ways to change that. */
export function useSpread(route: () => Route) {
  const [axes, setAxes] = useState<Axes>([]);
  return {
    axes,
    close: () => setAxes([]),
    /** One setting by itself; pressed for a second one, both make a grid. */
    spread: (stage: StageId, { path, title, unit, scale }: Named, second = false) =>
      setAxes((now) => {
        const axis: Axis = { stage, path, title, unit, scale };
        const others = now.filter((a) => a.stage !== stage || a.path !== path);
        return second && others.length > 0 ? [others[0], axis] : [axis];
      }),
    toggle: () =>
      setAxes((now) => {
        const usual = usualAxis(route());
        return now.length > 0 || !usual ? [] : [usual];
      }),
    drop: (axis: Axis) => setAxes((now) => now.filter((a) => a !== axis)),
    /** Takes steps as typed; what cannot be taken is said. @returns the fault, or null */
    type: (axis: Axis, text: string): string | null => {
      try {
        const { kind } = spreadOf(route(), axis);
        const values = stepsTyped(text, kind, axis.scale);
        if (!values) return `“${text}” is no list of values; write them apart by commas`;
        const next = { ...axis, values };
        spreadOf(route(), next);
        setAxes((now) => now.map((a) => (a === axis ? next : a)));
        return null;
      } catch (error) {
        return (error as Error).message;
      }
    },
  };
}

export type SpreadState = ReturnType<typeof useSpread>;

/** Axes whose stage is still on the route. */
export const axesOn = (axes: Axes, route: Route): Axes =>
  axes.filter((a) => settingsOf(route, a.stage) !== null);

/**
 * T spreads the setting whose control has the focus, of the open stage; with Shift as a second one. It works while a
 * number is typed too, as no number has that letter.
 */
export function useSpreadKey({ spread }: SpreadState, stage: StageId | null): void {
  const latest = useRef(spread);
  useEffect(() => {
    latest.current = spread;
  });
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key.toLowerCase() !== "t" || e.ctrlKey || e.metaKey || e.altKey || !stage) return;
      if (!useKeysSetting.getState().plain) return;
      const setting = settingAround(document.activeElement);
      if (!setting) return;
      e.preventDefault();
      e.stopPropagation();
      latest.current(stage, setting, e.shiftKey);
    };
    window.addEventListener("keydown", key, true);
    return () => window.removeEventListener("keydown", key, true);
  }, [stage]);
}
