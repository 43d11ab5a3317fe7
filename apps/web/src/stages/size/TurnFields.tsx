import { figure } from "@hardline/core/inspect/check";
import { type Quarter } from "@hardline/core/turn/turn";
import { settingsOf } from "@hardline/core/route/route";
import { routeTurnedOn } from "@hardline/core/route/turning";
import { IconFlipHorizontal, IconFlipVertical, IconRotate, IconRotateClockwise } from "@tabler/icons-react";
import { Button } from "@mantine/core";
import { Field, Sliding } from "../../shared/fields/Field";
import css from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";

const QUARTERS: readonly {
  readonly to: Quarter;
  readonly words: string;
  readonly Icon: typeof IconRotate;
}[] = [
  { to: "left", words: "Quarter turn left", Icon: IconRotate },
  { to: "right", words: "Quarter turn right", Icon: IconRotateClockwise },
  { to: "mirrored", words: "Mirror left to right", Icon: IconFlipVertical },
  { to: "upside down", words: "Mirror top to bottom", Icon: IconFlipHorizontal },
];
/** Less than this is not worth a word. */
const LEAST_SKEW = 0.3;

/** Brings the artwork upright: quarter turns, mirroring, and straightening by what was read of a scan. */
export function TurnFields({
  route,
  keeper,
  set,
  ticket,
  finish,
}: Pick<BenchScene, "route" | "keeper" | "set" | "ticket" | "finish">) {
  const { straighten } = settingsOf(route, "size")!;
  const skew = ticket.artwork.reading?.skew ?? null;
  const offered = skew !== null && Math.abs(skew) >= LEAST_SKEW ? Math.round(skew * 10) / 10 : null;
  return (
    <>
      <Field label="Turn">
        <div className={css.buttons}>
          {QUARTERS.map(({ to, words, Icon }) => (
            <button
              key={to}
              type="button"
              aria-label={words}
              title={words}
              disabled={!finish}
              onClick={() => finish && keeper.change(routeTurnedOn(keeper.get().value, to, finish))}
            >
              <Icon size={17} stroke={1.7} />
            </button>
          ))}
        </div>
      </Field>
      <Sliding
        label="Straighten"
        of="straighten"
        unit="°"
        decimals={1}
        value={straighten}
        min={-15}
        max={15}
        step={0.1}
        change={(degrees) => set("size", { straighten: Math.round(degrees * 10) / 10 })}
      />
      {offered !== null && straighten !== offered && (
        <p className={css.note}>
          The scan is turned {figure(Math.abs(offered), 1)}° {offered > 0 ? "counter-clockwise" : "clockwise"}
          .{" "}
          <Button size="compact-xs" variant="light" onClick={() => set("size", { straighten: offered })}>
            Straighten it
          </Button>
        </p>
      )}
    </>
  );
}
