import { type RouteView, type TicketView, type WatchView } from "@hardline/contract";
import { type Readings } from "@hardline/core/inspect/check";
import { type Frame } from "@hardline/core/path/frame";
import { type SetText } from "@hardline/core/edit/operation";
import { type PathSet } from "@hardline/core/path/pathSet";
import { type Colourway } from "@hardline/core/recolour/colourway";
import { type Finish } from "@hardline/core/result/finish";
import { type Route } from "@hardline/core/route/route";
import { type StageId } from "@hardline/core/stage/stages";
import { type ComponentType } from "react";
import { type BenchEngine } from "../engine/BenchEngine";
import { type Inspected, type Shown } from "../engine/protocol";
import { type RouteKeeper } from "../bench/RouteKeeper";
import { type SaveState } from "../keeper/Keeper";
import { type HandOvers } from "../bench/useHandOver";
import { type Named } from "../shared/fields/Field";
import { type Box, type Placed } from "../table/geometry";

/** What every stage's panel, tools and hands may look at. */
export interface BenchScene {
  readonly ticket: TicketView;
  readonly route: Route;
  readonly saved: RouteView;
  readonly state: SaveState;
  readonly keeper: RouteKeeper;
  readonly engine: BenchEngine | null;
  /** Null where the settings contradict each other. */
  readonly finish: Finish | null;
  /** The part of the artwork that the finished picture shows. */
  readonly frame: Frame;
  readonly shown: Shown | null;
  /** The sets of paths that are on the light table. */
  readonly sets: readonly PathSet[];
  /** Words that were set on them. */
  readonly texts: readonly SetText[];
  /** The colourway that everything is seen in; null = as it is. */
  readonly way: Colourway | null;
  /** Who else is at the ticket, and what became of it meanwhile; null until it is known. */
  readonly watch: WatchView | null;
  /** Chooses one by name. */
  readonly setWay: (name: string | null) => void;
  /** What was last found, and the route it was found of. */
  readonly inspected: { readonly of: Route; readonly found: Inspected } | null;
  readonly handOvers: HandOvers;
  /** Plates and sets of paths that are not shown, by name. */
  readonly layers: {
    readonly hidden: readonly string[];
    readonly toggle: (name: string) => void;
    /** Hides these and no others. */
    readonly hide: (names: readonly string[]) => void;
  };
  /** Changes settings of a stage; what is not allowed is said and not done. */
  readonly set: (stage: StageId, settings: object) => void;
  /** Spreads a setting of a stage out into a test strip. */
  readonly spread: (stage: StageId, setting: Named) => void;
}

export interface PanelProps<Tools = unknown> {
  readonly scene: BenchScene;
  readonly tools: Tools;
}

export interface HandsProps<Tools = unknown> extends PanelProps<Tools> {
  readonly engine: BenchEngine;
  readonly finish: Finish;
  readonly placed: Placed;
  readonly box: Box;
}

/** A key of an open stage: what is pressed, how it is written and what it does. */
export interface StageKey {
  readonly press: string;
  readonly act: () => void;
}

/** What tools may look at, open or not. */
export type ToolScene = Pick<BenchScene, "route" | "saved" | "ticket" | "set" | "layers" | "shown">;

/** What a stage brings to the interface. Docket, light table, readings and the list of keys know it only by this. */
export interface StageFace<Tools = unknown> {
  /** Of a stage, or of a row of the docket that is none. */
  readonly id: string;
  /** For a row that is no stage: its name, and its words on a route. */
  readonly title?: string;
  readonly words?: (scene: Pick<BenchScene, "route" | "ticket" | "saved" | "watch">) => string;
  /** State that outlives the open panel, such as the tool in hand. A hook. */
  readonly useTools?: (scene: ToolScene) => Tools;
  readonly Panel: ComponentType<PanelProps<Tools>>;
  /** What the open stage lays over the picture, with the pointer on it. */
  readonly Hands?: ComponentType<HandsProps<Tools>>;
  /** Keys while it is open. */
  readonly keys?: (tools: Tools) => readonly StageKey[];
  /** How those keys are listed. */
  readonly keyList?: readonly (readonly [keys: string, does: string])[];
  /** How its result is drawn while it is open: told to its part in the worker. */
  readonly view?: (tools: Tools) => unknown;
  /** What lies on the light table while it is open, where that is not the route as it stands. */
  readonly onTable?: (tools: Tools) => OnTable | null;
  /** Whether what is cleared is hatched. */
  readonly hatched?: (tools: Tools) => boolean;
  /** The backing that suits its settings best, by name. */
  readonly backing?: (settings: object) => string;
}

/** Routes that are looked at and not changed. */
export interface OnTable {
  /** Null: the route as it stands. */
  readonly route: Route | null;
  readonly other: Route;
  /** What the other and this one are called. */
  readonly names: readonly [other: string, own: string];
  /** Side by side; otherwise the other is left of the wipe's edge. */
  readonly beside: boolean;
}

export const defineFace = <Tools>(face: StageFace<Tools>): StageFace => face as StageFace;

/** What was last measured of a stage; null until it was. */
export const readingsOf = ({ inspected }: BenchScene, stage: StageId): Readings | null =>
  inspected?.found.stages.find((s) => s.stage === stage)?.readings ?? null;
