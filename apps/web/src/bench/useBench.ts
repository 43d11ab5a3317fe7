import { type ArtworkView, type RouteView } from "@hardline/contract";
import { findingsOf } from "@hardline/core/inspect/check";
import { admit, canvasOf, planOf } from "@hardline/core/route/plan";
import { type Finish } from "@hardline/core/result/finish";
import { withSettings, type Route } from "@hardline/core/route/route";
import { type ArtworkFacts } from "@hardline/core/route/source";
import { canonical } from "@hardline/core/settings/canonical";
import { type StageId } from "@hardline/core/stage/stages";
import { notifications } from "@mantine/notifications";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { ask } from "../api/client";
import { mayNow } from "../api/people";
import { BenchEngine } from "../engine/BenchEngine";
import { type Inspected, type Shown } from "../engine/protocol";
import { RouteKeeper } from "./RouteKeeper";
import { useKept } from "../keeper/useKept";
import { useSteady } from "../shared/useSteady";
import { backingName } from "./table/backings";
import { answered } from "../shared/answered";

/** The live copy of a route, and its way to the server. */
export function useKeeper(view: RouteView) {
  const queries = useQueryClient();
  return useKept<Route, RouteView, RouteKeeper>(() => {
    const { id } = view;
    const at = (path: string, init: Parameters<typeof ask>[1]) =>
      ask<RouteView>(`/api/routes/${id}${path}`, init);
    return new RouteKeeper(
      view,
      {
        get: () => at("", {}),
        save: (version, route) => at("", { method: "PUT", json: { version, route } }),
        undo: (version) => at("/undo", { method: "POST", json: { version } }),
        redo: (version) => at("/redo", { method: "POST", json: { version } }),
        bringBack: (revision, version) =>
          at(`/revisions/${revision}/bring-back`, { method: "POST", json: { version } }),
      },
      localStorage,
      () => {
        const may = mayNow(queries, "make");
        if (!may)
          notifications.show({
            id: "look-only",
            color: "yellow",
            message: "Your role is to look at tickets and to run what is ready. Nothing was changed.",
          });
        return may;
      },
    );
  });
}

/** Size and place of the finished piece, known without running anything; null where settings contradict each other. */
export function usePlace(route: Route, { sha256, width, height, vector }: ArtworkView) {
  const plan = useMemo(() => {
    try {
      return planOf(route, { sha256, width, height, vector }).place;
    } catch {
      return null;
    }
  }, [route, sha256, width, height, vector]);
  return useSteady(plan);
}

/** The size of what a stage shows: its own canvas where it has one, the piece otherwise. */
export function useCanvas(
  route: Route,
  { sha256, width, height, vector }: ArtworkView,
  stage: StageId,
  finish: Finish | null,
): Finish | null {
  const own = useMemo(() => {
    try {
      return canvasOf(planOf(route, { sha256, width, height, vector }), stage).finish;
    } catch {
      return null;
    }
  }, [route, sha256, width, height, vector, stage]);
  return useSteady(own) ?? finish;
}

export interface EngineState {
  readonly shown: Shown | null;
  /** There is a picture, be it a draft. */
  readonly begun: boolean;
  /** Nothing else of the bench waits for it any more. */
  readonly waited: boolean;
  readonly fault: string | null;
  /** Share done of what takes more than a moment, and the stage at work; null when nothing does. */
  readonly progress: { readonly share: number; readonly stage: StageId } | null;
}

/** A first picture that is not there after so long, in milliseconds, is not waited for by the rest of the bench. */
const LATE_MS = 500;

/** The bench's worker, what it last showed, and what keeps it busy. */
export function useEngine(artwork: ArtworkView) {
  const [state, setState] = useState<EngineState>({
    ...{ shown: null, begun: false, waited: false, fault: null, progress: null },
  });
  const [engine, setEngine] = useState<BenchEngine | null>(null);
  useEffect(() => {
    let slow: ReturnType<typeof setTimeout> | undefined;
    let latest: EngineState["progress"] = null;
    const begun = () => setState((s) => (s.begun ? s : { ...s, begun: true, waited: true }));
    const late = setTimeout(() => setState((s) => (s.waited ? s : { ...s, waited: true })), LATE_MS);
    const own = new BenchEngine(artwork, {
      begun,
      shown: (shown) => {
        clearTimeout(slow);
        slow = undefined;
        latest = null;
        setState((s) => ({ ...s, shown, fault: null, progress: null }));
      },
      progress: (share, stage) => {
        latest = { share, stage };
        slow ??= setTimeout(function tell() {
          if (latest) setState((s) => ({ ...s, progress: latest }));
          slow = setTimeout(tell, 150);
        }, 600);
      },
      fault: (fault) => {
        clearTimeout(slow);
        slow = undefined;
        setState((s) => (s.fault === fault ? s : { ...s, fault, progress: null }));
      },
    });
    // eslint-disable-next-line react-hooks/set-state-in-effect -- a worker is made once the bench is there, not before
    setEngine(own);
    return () => {
      clearTimeout(slow);
      clearTimeout(late);
      own.close();
      setEngine(null);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- one worker for one artwork
  }, [artwork.id]);
  return { engine, ...state };
}

/**
 * Sends a changed route to the worker in the very event that changed it. Where the change alters what is to be seen
 * of it (size, material), the light table asks for itself.
 */
export function useEarlyShow(engine: BenchEngine | null, keeper: RouteKeeper, artwork: ArtworkView): void {
  useEffect(() => {
    let sent = keeper.get().value;
    return keeper.subscribe(() => {
      const { value: route } = keeper.get();
      if (route === sent) return;
      if (engine && viewOf(route, artwork) === viewOf(sent, artwork)) engine.showRoute(route);
      sent = route;
    });
  }, [engine, keeper, artwork]);
}

/** What of a route decides which part of it is looked at, and on what colour. */
const viewOf = (route: Route, { sha256, width, height, vector }: ArtworkView): string => {
  try {
    const plan = planOf(route, { sha256, width, height, vector });
    const canvases = plan.steps.flatMap(({ stage, settings }) => stage.canvas?.(settings) ?? []);
    return canonical([plan.place, canvases, route.stages.map((s) => s.stage), backingName(route)]);
  } catch {
    return "";
  }
};

/** A hand that moved nothing for so long, in milliseconds, rests. */
const REST_MS = 450;

/** Checks and readings, taken at once of what was opened and then when the hand rests, and told to the board once the route is saved. */
export function useInspection(
  engine: BenchEngine | null,
  route: Route,
  shown: Shown | null,
  saved: RouteView | null,
) {
  const [inspected, setInspected] = useState<{ readonly of: Route; readonly found: Inspected } | null>(null);
  const told = useRef(0);
  const opened = useRef(route);
  useEffect(() => {
    if (!engine || !shown) return;
    const rest = route === opened.current ? 0 : REST_MS;
    const timer = setTimeout(async () => {
      const found = await answered(engine.inspect(route), "The checks were not made");
      if (found) setInspected({ of: route, found });
    }, rest);
    return () => clearTimeout(timer);
    // a new picture on the table stops an inspection, so each one starts it afresh
  }, [engine, route, shown]);
  useEffect(() => {
    if (!saved || !inspected || inspected.of !== saved.route || told.current === saved.revision) return;
    told.current = saved.revision;
    const { checks, thumbnail } = inspected.found;
    const findings = {
      revision: saved.revision,
      ...findingsOf(checks),
      ...(thumbnail === null ? {} : { thumbnail }),
    };
    // The board can wait: should this not arrive, the next look tells it.
    void ask(`/api/routes/${saved.id}/findings`, { method: "PUT", json: findings }).catch(
      () => (told.current = 0),
    );
  }, [inspected, saved]);
  return inspected;
}

/** Changes settings of one stage; what is not allowed is said and not done. The same function for the bench's life. */
export const useSetting = (keeper: RouteKeeper, { sha256, width, height, vector }: ArtworkView) =>
  useCallback(
    (stage: StageId, settings: object): void => {
      const now = keeper.get().value;
      try {
        const next = withSettings(now, stage, settings);
        // What could be met must still be; what could not be before is told by the light table.
        const facts = { sha256, width, height, vector };
        if (canBeMet(now, facts)) admit(next, facts);
        keeper.change(next);
      } catch (error) {
        notifications.show({ id: `${stage}-setting`, color: "yellow", message: (error as Error).message });
      }
    },
    [keeper, sha256, width, height, vector],
  );

function canBeMet(route: Route, facts: ArtworkFacts): boolean {
  try {
    admit(route, facts);
    return true;
  } catch {
    return false;
  }
}
