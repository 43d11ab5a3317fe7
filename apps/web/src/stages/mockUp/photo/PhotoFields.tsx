import { type ThingView } from "@hardline/contract";
import { measuredArea, type PhotoArea } from "@hardline/core/mockUp/photoArea";
import { figure } from "@hardline/core/inspect/check";
import { type PhotoThing } from "@hardline/core/stage/mockUp/settings";
import { Button, TextInput } from "@mantine/core";
import { IconBrush, IconColorPicker, IconPerspective, IconRuler2 } from "@tabler/icons-react";
import { useThingChange } from "../../../api/things";
import { ColourBox } from "../../../shared/fields/ColourBox";
import { Switch } from "../../../shared/fields/controls";
import { Choice, Field, Sliding } from "../../../shared/fields/Field";
import field from "../../../shared/fields/Field.module.css";
import { NumberField } from "../../../shared/fields/NumberField";
import { tellFault } from "../../../shared/tell";
import { useWords } from "../../../shared/unit";
import { type BenchScene } from "../../face";
import css from "../MockUp.module.css";
import { type MockUpHand, type MockUpTools } from "../useMockUp";
import { ofKind } from "./area";
import { changePhoto } from "./photoOn";

interface Props {
  readonly scene: BenchScene;
  readonly tools: MockUpTools;
  readonly thing: PhotoThing;
  /** The shop's own thing that it is, if it is kept. */
  readonly known: ThingView | null;
}

/** How a photograph of a thing is to be read: where it can be printed on, how large that is, its light, what is in front. */
export function PhotoFields({ scene, tools, thing, known }: Props) {
  const { area, front } = thing;
  const words = useWords();
  const put = (more: Partial<PhotoThing>) => changePhoto(scene, more);
  const found = measuredArea(area as PhotoArea, { width: thing.widthPx, height: thing.heightPx });
  const hold = (hand: MockUpHand) => tools.setHand(tools.hand === hand ? "prints" : hand);
  return (
    <>
      <Field label="Area">
        <Choice
          label="Kind of the area"
          value={area.kind}
          options={[
            { value: "flat", label: "flat", tip: "By its four corners" },
            { value: "round", label: "round", tip: "A mug, a bottle: by its upper and lower edge" },
            { value: "cloth", label: "cloth", tip: "By nine points" },
          ]}
          change={(kind) => put({ area: ofKind(area, kind) })}
        />
      </Field>
      <Field label="Its places">
        <Tool {...{ tools }} hand="area" words="Set up" icon={<IconPerspective size={15} />} hold={hold} />
      </Field>
      <AreaSize {...{ area, put, tools, hold }} />
      {found && (
        <p className={field.note}>
          {words(
            `${figure(found.area.limits.width)} × ${figure(found.area.limits.height)} mm, ${figure(found.perMm, 2)} pixels to 1 mm.`,
          )}
        </p>
      )}
      <Field label="Its colour">
        <Switch
          label="found"
          checked={thing.cloth === undefined}
          onChange={(e) => put({ cloth: e.currentTarget.checked ? undefined : "#ffffff" })}
        />
        {thing.cloth !== undefined && (
          <ColourBox label="The thing's own colour" colour={thing.cloth} change={(cloth) => put({ cloth })} />
        )}
      </Field>
      <Sliding
        label="Folds from"
        unit="mm"
        decimals={1}
        value={thing.smoothMm}
        min={0}
        max={20}
        step={0.5}
        change={(smoothMm) => put({ smoothMm })}
      />
      <Field label="In front">
        <Tool {...{ tools }} hand="front" words="Paint" icon={<IconBrush size={15} />} hold={hold} />
        <Tool
          {...{ tools }}
          hand="frontColour"
          words="Colour"
          icon={<IconColorPicker size={15} />}
          hold={hold}
        />
        {front.length > 0 && (
          <button type="button" className={field.link} onClick={() => put({ front: front.slice(0, -1) })}>
            Take back
          </button>
        )}
      </Field>
      {tools.hand === "front" && (
        <>
          <Field label="Brush">
            <Choice
              label="What the brush does"
              value={tools.paints}
              options={[
                { value: "away", label: "in front" },
                { value: "back", label: "not in front" },
              ]}
              change={tools.setPaints}
            />
          </Field>
          <Sliding
            label="Brush size"
            unit="mm"
            decimals={1}
            value={tools.brushMm}
            min={0.5}
            max={100}
            step={0.5}
            change={tools.setBrush}
          />
        </>
      )}
      <KeepThing {...{ thing, known, put }} />
    </>
  );
}

interface ToolProps {
  readonly tools: MockUpTools;
  readonly hand: MockUpHand;
  readonly words: string;
  readonly icon: React.ReactNode;
  readonly hold: (hand: MockUpHand) => void;
}

const Tool = ({ tools, hand, words, icon, hold }: ToolProps) => (
  <Button
    size="xs"
    variant={tools.hand === hand ? "filled" : "default"}
    aria-pressed={tools.hand === hand}
    leftSection={icon}
    onClick={() => hold(hand)}
  >
    {words}
  </Button>
);

interface SizeProps {
  readonly area: PhotoThing["area"];
  readonly put: (more: Partial<PhotoThing>) => void;
  readonly tools: MockUpTools;
  readonly hold: (hand: MockUpHand) => void;
}

/** How large the area is: its diameter, its width, or the distance of two places. */
function AreaSize({ area, put, tools, hold }: SizeProps) {
  if (area.kind === "round")
    return (
      <Field label="Diameter">
        <NumberField
          label="Diameter"
          unit="mm"
          decimals={1}
          value={area.diameterMm}
          min={1}
          max={20000}
          change={(diameterMm) => put({ area: { ...area, diameterMm } })}
        />
      </Field>
    );
  const { scale, ...rest } = area;
  const by = scale ? "scale" : "width";
  return (
    <Field label="Measured">
      <Choice
        label="How its size is known"
        value={by}
        options={[
          { value: "width", label: "width" },
          { value: "scale", label: "distance", tip: "Two places that are a known distance apart" },
        ]}
        change={(v) => {
          if (v === by) return;
          if (v === "width") {
            tools.setHand("area");
            return put({ area: { ...rest, widthMm: 300 } });
          }
          const { widthMm: _w, heightMm: _h, ...places } = rest;
          put({
            area: { ...places, scale: { from: [0.35, 0.5], to: [0.65, 0.5], mm: 100 } } as PhotoThing["area"],
          });
          tools.setHand("scale");
        }}
      />
      {scale ? (
        <>
          <NumberField
            label="Distance"
            unit="mm"
            decimals={1}
            value={scale.mm}
            min={1}
            max={20000}
            change={(mm) => put({ area: { ...area, scale: { ...scale, mm } } })}
          />
          <Tool
            {...{ tools, hold }}
            hand="scale"
            words=""
            icon={<IconRuler2 size={15} aria-label="Place its ends" />}
          />
        </>
      ) : (
        <NumberField
          label="Width of the area"
          unit="mm"
          decimals={1}
          value={area.widthMm ?? 300}
          min={1}
          max={20000}
          change={(widthMm) => put({ area: { ...area, widthMm } })}
        />
      )}
    </Field>
  );
}

interface KeepProps {
  readonly thing: PhotoThing;
  readonly known: ThingView | null;
  readonly put: (more: Partial<PhotoThing>) => void;
}

/** Keeps the photograph, as it is set up, among the shop's things. */
function KeepThing({ thing, known, put }: KeepProps) {
  const { keep, remove } = useThingChange();
  const isKept = known !== null && JSON.stringify(known.thing) === JSON.stringify(thing);
  return (
    <>
      <Field label="Called">
        <TextInput
          size="xs"
          aria-label="What the thing is called"
          key={thing.name}
          defaultValue={thing.name}
          maxLength={60}
          onBlur={(e) => e.currentTarget.value.trim() && put({ name: e.currentTarget.value.trim() })}
          onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
        />
      </Field>
      <div className={css.acts}>
        <button
          type="button"
          className={field.link}
          disabled={isKept || keep.isPending}
          onClick={() =>
            void keep
              .mutateAsync({ name: thing.name, thing })
              .catch((error) => tellFault("The thing was not kept", error))
          }
        >
          {isKept ? "Kept among the shop's things" : "Keep among the shop's things"}
        </button>
        {known && (
          <button
            type="button"
            className={field.link}
            onClick={() =>
              void remove
                .mutateAsync(known.id)
                .catch((error) => tellFault("The thing was not taken off", error))
            }
          >
            Take off
          </button>
        )}
      </div>
    </>
  );
}
