import { type InkKind } from "@hardline/core/mockUp/thing";
import { THINGS, thingOf, type ThingId } from "@hardline/core/mockUp/things";
import { settingsOf } from "@hardline/core/route/route";
import { type MockUpSettings } from "@hardline/core/stage/mockUp/settings";
import { useThings } from "../../api/things";
import { ColourBox } from "../../shared/fields/ColourBox";
import { Select, Switch } from "../../shared/fields/controls";
import { Choice, Field } from "../../shared/fields/Field";
import { NumberField } from "../../shared/fields/NumberField";
import { type PanelProps } from "../face";
import { LeaveOut } from "../LeaveOut";
import { OwnPhoto } from "./photo/OwnPhoto";
import { PhotoFields } from "./photo/PhotoFields";
import { PrintFields } from "./PrintFields";
import { SheetFields } from "./SheetFields";
import { inOrder } from "./sizes";
import { type MockUpTools } from "./useMockUp";

const GROUPS = [...new Set(THINGS.map((t) => t.group))];
const INKS: readonly { readonly value: InkKind; readonly label: string; readonly tip: string }[] = [
  { value: "onTop", label: "on top", tip: "Ink, film or vinyl that hides what is under it" },
  { value: "inCloth", label: "in the cloth", tip: "Dye: the cloth's colour shows through all of it" },
  { value: "etched", label: "etched", tip: "Burned, engraved or frosted" },
];

/** The thing that something is put on, where, and how it lies there. */
export function MockUpPanel({ scene, tools }: PanelProps<MockUpTools>) {
  const { route, set } = scene;
  const settings = settingsOf(route, "mockUp")!;
  const { thing, size, colour, ink, vinyl, widthPx } = settings;
  const change = (more: Partial<MockUpSettings>) => set("mockUp", more);
  const { data: own = [] } = useThings();
  const drawn = typeof thing === "string" ? thingOf(thing) : null;
  const known =
    typeof thing === "object"
      ? own.find((t) => t.name === thing.name && t.thing.photo === thing.photo)
      : undefined;
  const choose = (value: string | null): void => {
    if (!value) return;
    const kept = own.find((t) => `own ${t.id}` === value);
    tools.setHand("prints");
    tools.setChosen(0);
    if (kept) return change({ thing: kept.thing });
    if (value !== PHOTO) change({ thing: value as ThingId });
  };
  return (
    <>
      <Field label="Thing">
        <Select
          aria-label="The thing that it is put on"
          allowDeselect={false}
          searchable
          maxDropdownHeight={340}
          value={typeof thing === "string" ? thing : known ? `own ${known.id}` : PHOTO}
          data={[
            ...GROUPS.map((group) => ({
              group,
              items: THINGS.filter((t) => t.group === group).map((t) => ({ value: t.id, label: t.title })),
            })),
            ...(own.length > 0 || typeof thing === "object"
              ? [
                  {
                    group: "The shop's own",
                    items: [
                      ...own.map((t) => ({ value: `own ${t.id}`, label: t.name })),
                      ...(typeof thing === "object" && !known ? [{ value: PHOTO, label: thing.name }] : []),
                    ],
                  },
                ]
              : []),
          ]}
          onChange={choose}
        />
      </Field>
      <OwnPhoto {...{ scene, tools }} />
      {drawn && drawn.sizes.length > 0 && (
        <Field label="Size">
          <Choice
            label="Size of the thing"
            value={drawn.sizes.includes(size) ? size : drawn.sizes[0]}
            options={inOrder(drawn.sizes).map((s) => ({ value: s, label: s }))}
            change={(v) => change({ size: v })}
          />
        </Field>
      )}
      {drawn && (
        <Field label="Colour">
          <Switch
            label="its own"
            checked={colour === "own"}
            onChange={(e) => change({ colour: e.currentTarget.checked ? "own" : drawn.colour })}
          />
          {colour !== "own" && (
            <ColourBox label="Colour of the thing" colour={colour} change={(v) => change({ colour: v })} />
          )}
        </Field>
      )}
      {typeof thing === "object" && <PhotoFields {...{ scene, tools, thing }} known={known ?? null} />}
      <Field label="Printed" of="ink">
        <Choice
          label="How it lies on the thing"
          value={ink !== "own" ? ink : (drawn?.ink ?? "onTop")}
          options={INKS}
          change={(v) => change({ ink: v })}
        />
      </Field>
      {route.stages.some((s) => s.stage === "trace" || s.stage === "blackWhite") && ink !== "etched" && (
        <Field label="Vinyl">
          <ColourBox label="Colour of one-colour art" colour={vinyl} change={(v) => change({ vinyl: v })} />
        </Field>
      )}
      <PrintFields {...{ scene, tools, settings }} />
      <SheetFields {...{ settings, change }} />
      <Field label="Picture">
        <NumberField
          label="Width of the picture"
          value={widthPx}
          min={200}
          max={6000}
          decimals={0}
          unit="px"
          change={(v) => change({ widthPx: v })}
        />
      </Field>
      <LeaveOut scene={scene} stage="mockUp" />
    </>
  );
}

/** The photograph that is being set up, among the things. */
const PHOTO = "photograph";
