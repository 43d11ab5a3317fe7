import {
  graverFirst,
  type Check,
  type Place,
  type PlateReading,
  type Readings,
} from "@hardline/core/inspect/check";
import { type Limits } from "@hardline/core/inspect/limits";
import { dotsPerMm } from "@hardline/core/maths/units";
import { type Finish } from "@hardline/core/result/finish";
import { type Route } from "@hardline/core/route/route";
import { type ReadingFace } from "@hardline/core/stage/stage";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import { Button } from "@mantine/core";
import { useState } from "react";
import { type Inspected } from "../../engine/protocol";
import { LevelMark } from "../../shared/level";
import css from "./ReadingsColumn.module.css";
import { MOST_TAGS } from "../table/PlaceTags";
import { Histograms } from "./Histograms";
import { Regions } from "./Regions";
import { Response } from "./Response";
import { RunLengths } from "./RunLengths";
import { LimitFields } from "./LimitFields";
import { PlateTable } from "./PlateTable";
import { Words } from "../../shared/Words";

interface Props {
  readonly inspected: { readonly of: Route; readonly found: Inspected } | null;
  readonly stale: boolean;
  readonly finish: Finish | null;
  readonly limits: Limits;
  /** The stages that the route has. */
  readonly stages: readonly StageId[];
  readonly places: Check | null;
  readonly setPlaces: (check: Check | null) => void;
  readonly fly: (place: Place) => void;
  /** So many were ordered. */
  readonly pieces: number;
  readonly handOver: () => void;
  readonly setLimits: (limits: Limits) => void;
  /** Has a stage's settings changed as a check proposes. */
  readonly repair: (stage: StageId, change: object) => void;
}

/** The right column: everything that is measured. */
export function ReadingsColumn(props: Props) {
  const { inspected, stale, finish, limits, stages, places, pieces } = props;
  const { setPlaces, fly, handOver, setLimits, repair } = props;
  const found = inspected?.found;
  return (
    <aside className={css.column} aria-label="Checks and readings">
      <div className={css.scroll}>
        <h2>Checks</h2>
        {!found && <div className={css.skeleton} role="status" aria-label="Measuring" />}
        <div className={stale ? css.stale : undefined}>
          {[...(found?.checks ?? [])].sort(worstFirst).map((check) => (
            <CheckLine
              key={check.id}
              check={check}
              shown={places?.id === check.id}
              show={setPlaces}
              fly={fly}
              repair={(change) => repair(check.stage, change)}
            />
          ))}
        </div>
        <LimitFields {...{ limits, stages }} change={setLimits} />
        <h2>Readings</h2>
        {found && (
          <div className={stale ? css.stale : undefined}>
            {found.stages.map(({ stage, readings }) => (
              <StageChart key={stage} {...{ stage, readings, pieces }} />
            ))}
            <dl>
              {found.stages.map(({ stage, readings }) => (
                <StageFigures key={stage} stage={stage} readings={readings} />
              ))}
              {finish && <Line label="Dots" value={`${finish.widthPx} × ${finish.heightPx}`} />}
              {finish && <Line label="One dot" value={`${(1 / dotsPerMm(finish)).toFixed(3)} mm`} />}
            </dl>
          </div>
        )}
      </div>
      <div className={css.foot}>
        <Button fullWidth onClick={handOver}>
          Hand over files
        </Button>
      </div>
    </aside>
  );
}

const worstFirst = (a: Check, b: Check): number => graverFirst(a.level, b.level);

interface OfStage {
  readonly stage: StageId;
  readonly readings: Readings;
}

/** The readings that a stage has now, with how each is shown. */
const facesOf = ({ stage, readings }: OfStage): [string, ReadingFace][] =>
  Object.entries(stageById(stage).readings ?? {}).filter(([name]) => name in readings);

function StageChart({ stage, readings, pieces }: OfStage & { readonly pieces: number }) {
  const series = facesOf({ stage, readings })
    .filter(([, { display }]) => display === "filled" || display === "line")
    .map(([name, { label, display }]) => ({
      label,
      filled: display === "filled",
      counts: readings[name] as readonly number[],
    }));
  const shown = (display: ReadingFace["display"]) =>
    facesOf({ stage, readings }).filter(([, face]) => face.display === display);
  const runs = shown("runs").map(([name, { label }]) => ({
    label,
    counts: readings[name] as readonly number[],
  }));
  return (
    <>
      {series.length > 0 && <Histograms series={series} />}
      {shown("response").map(([name, { label }]) => (
        <Response key={name} label={label} shares={readings[name] as readonly number[]} />
      ))}
      {shown("regions").map(([name, { label }]) => (
        <Regions key={name} label={label} shares={readings[name] as readonly number[]} />
      ))}
      {runs.length > 0 && <RunLengths series={runs} />}
      {shown("plates").map(([name]) => (
        <PlateTable key={name} plates={readings[name] as readonly PlateReading[]} pieces={pieces} />
      ))}
    </>
  );
}

function StageFigures({ stage, readings }: OfStage) {
  return facesOf({ stage, readings })
    .filter(([, { display = "figure" }]) => display === "figure")
    .map(([name, { label, unit, decimals = 0 }]) => (
      <Line key={name} label={label} value={told(readings[name], decimals, unit)} />
    ));
}

/** A measured number with its unit; a word where there is none to measure. */
const told = (value: Readings[string], decimals: number, unit?: string): string =>
  typeof value === "number" ? `${value.toFixed(decimals)}${unit ? ` ${unit}` : ""}` : String(value);

interface CheckLineProps {
  readonly check: Check;
  readonly shown: boolean;
  readonly show: (check: Check | null) => void;
  readonly fly: (place: Place) => void;
  readonly repair: (change: object) => void;
}

function CheckLine({ check, shown, show, fly, repair }: CheckLineProps) {
  const { level, text, detail, places, repair: mend, repairOne: mendOne } = check;
  const [at, setAt] = useState(0);
  const go = (k: number): void => {
    setAt(k);
    fly(places[k]);
  };
  return (
    <div className={css.check}>
      <LevelMark level={level} />
      <div>
        <b>
          <Words of={text} />
        </b>
        <p>
          <Words of={detail} />
        </p>
        {(places.length > 0 || mend) && (
          <div className={css.places}>
            {mend && (
              <button type="button" onClick={() => repair(mend.change)}>
                <Words of={mend.label} />
              </button>
            )}
            {places.length > 0 && (
              <button
                type="button"
                onClick={() => {
                  show(shown ? null : check);
                  if (!shown) go(0);
                }}
              >
                {`${shown ? "Hide" : "Show"} ${places.length === 1 ? "it" : "them"}`}
              </button>
            )}
            {shown &&
              places.slice(0, MOST_TAGS).map((_, i) => (
                <button
                  key={i}
                  type="button"
                  data-place={i + 1}
                  aria-label={`Go to place ${i + 1}`}
                  aria-pressed={mendOne ? i === at : undefined}
                  onClick={() => go(i)}
                >
                  {i + 1}
                </button>
              ))}
            {shown && mendOne && at < mendOne.changes.length && (
              <button type="button" onClick={() => repair(mendOne.changes[at])}>
                <Words of={mendOne.label} /> {at + 1}
              </button>
            )}
          </div>
        )}
      </div>
    </div>
  );
}

const Line = ({ label, value }: { label: string; value: string }) => (
  <div>
    <dt>{label}</dt>
    <dd className="mono">
      <Words of={value} />
    </dd>
  </div>
);
