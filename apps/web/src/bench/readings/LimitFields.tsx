import { LIMITS, type Limits } from "@hardline/core/inspect/limits";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import { NumberField } from "../../shared/fields/NumberField";
import css from "./ReadingsColumn.module.css";

interface Props {
  readonly limits: Limits;
  /** The stages that the route has. */
  readonly stages: readonly StageId[];
  readonly change: (limits: Limits) => void;
}

/** What the shop holds results against, as far as the route's stages look; part of the route, saved and undone with it. */
export function LimitFields({ limits, stages, change }: Props) {
  const used = new Set(stages.flatMap((stage) => stageById(stage).limits ?? []));
  return (
    <div className={css.limits}>
      {LIMITS.filter(({ name }) => used.has(name)).map(
        ({ name, words, says, least, most, unit, decimals, open }) => {
          const common = { label: says, min: least, max: most, unit, decimals };
          return (
            <div key={name}>
              {words}
              {open ? (
                <NumberField
                  {...common}
                  optional
                  placeholder="any"
                  value={limits[name]}
                  change={(v) => change({ ...limits, [name]: v })}
                />
              ) : (
                <NumberField
                  {...common}
                  value={limits[name]!}
                  change={(v) => change({ ...limits, [name]: v })}
                />
              )}
            </div>
          );
        },
      )}
    </div>
  );
}
