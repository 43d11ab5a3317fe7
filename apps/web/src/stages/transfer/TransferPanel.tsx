import { settingsOf } from "@hardline/core/route/route";
import { type TransferSettings } from "@hardline/core/stage/transfer/settings";
import { Switch } from "../../shared/fields/controls";
import { Choice, Field, Percent, Sliding } from "../../shared/fields/Field";
import { type PanelProps } from "../face";
import { ColourBox } from "../../shared/fields/ColourBox";
import { LeaveOut } from "../LeaveOut";
import { type TransferTools } from "./face";

/** Colour art as it is printed, and its white. */
export function TransferPanel({ scene, tools }: PanelProps<TransferTools>) {
  const { route, set } = scene;
  const { garment, black, saturation, edges, dotMm, white, inks, knockOut, mirror } = settingsOf(
    route,
    "transfer",
  )!;
  const change = (more: Partial<TransferSettings>) => set("transfer", more);
  return (
    <>
      <Field label="Seen">
        <Choice
          label="What the light table shows"
          value={tools.show}
          options={[
            { value: "print", label: "print", tip: "The print on the garment" },
            { value: "white", label: "white", tip: "The white layer alone" },
            { value: "colour", label: "colour", tip: "Colour and its transparency alone" },
          ]}
          change={tools.setShow}
        />
      </Field>
      <Field label="Garment">
        <ColourBox label="Colour of the garment" colour={garment} change={(v) => change({ garment: v })} />
      </Field>
      <Percent
        label="Black from"
        of="black"
        value={black}
        max={60}
        step={1}
        change={(v) => change({ black: v })}
      />
      <Percent
        label="Saturation"
        of="saturation"
        value={saturation}
        max={200}
        change={(v) => change({ saturation: v })}
      />
      <Field label="Soft edges" of="edges">
        <Choice
          label="Soft edges"
          value={edges}
          options={[
            { value: "soft", label: "as they are", tip: "Printed half transparent" },
            { value: "dots", label: "in dots", tip: "No half transparent pixel is left" },
          ]}
          change={(v) => change({ edges: v })}
        />
      </Field>
      {edges === "dots" && (
        <Sliding
          label="Dot"
          of="dotMm"
          unit="mm"
          decimals={2}
          value={dotMm}
          min={0.05}
          max={0.5}
          step={0.01}
          change={(v) => change({ dotMm: v })}
        />
      )}
      <Percent
        label="White"
        of="white.strength"
        value={white.strength}
        change={(v) => change({ white: { ...white, strength: v } })}
      />
      <Sliding
        label="Choke"
        of="white.chokeMm"
        unit="mm"
        decimals={2}
        value={white.chokeMm}
        min={0}
        max={1}
        step={0.05}
        change={(v) => change({ white: { ...white, chokeMm: v } })}
      />
      <Field label="Inks" of="inks">
        <Choice
          label="Inks"
          value={inks}
          options={[
            { value: "seeThrough", label: "see-through", tip: "What lies under them shows through" },
            { value: "opaque", label: "opaque", tip: "They hide what lies under them" },
          ]}
          change={(v) => change({ inks: v })}
        />
      </Field>
      <Field label="Garment out">
        <Switch
          aria-label="Take the garment's colour out"
          checked={knockOut !== undefined}
          onChange={(e) =>
            change({ knockOut: e.currentTarget.checked ? { tolerance: 4, softness: 6 } : undefined })
          }
        />
      </Field>
      {knockOut &&
        (["tolerance", "softness"] as const).map((name) => (
          <Sliding
            key={name}
            label={name === "tolerance" ? "Tolerance" : "Softness"}
            of={`knockOut.${name}`}
            decimals={1}
            value={knockOut[name]}
            min={0}
            max={40}
            step={0.5}
            change={(v) => change({ knockOut: { ...knockOut, [name]: v } })}
          />
        ))}
      <Field label="Mirrored">
        <Switch
          aria-label="Files are mirrored"
          checked={mirror}
          onChange={(e) => change({ mirror: e.currentTarget.checked })}
        />
      </Field>
      <LeaveOut scene={scene} stage="transfer" />
    </>
  );
}
