import { Choice, Field, Sliding } from "../../shared/fields/Field";
import { type FilmTools } from "./useFilms";

/** How the print is looked at; nothing of it is a setting. */
export function ViewFields({ tools }: { tools: FilmTools }) {
  return (
    <>
      <Field label="Seen">
        <Choice
          label="What the light table shows"
          value={tools.show}
          options={[
            { value: "print", label: "print", tip: "The print on the garment" },
            { value: "films", label: "films", tip: "Plates as black films (K)" },
            {
              value: "error",
              label: "error",
              tip: "Where the print is off the art: red from a ΔE of 1, full at 12 (E)",
            },
          ]}
          change={tools.setShow}
        />
      </Field>
      <Sliding
        label="Plates off"
        unit="mm"
        decimals={2}
        value={tools.shiftMm}
        min={0}
        max={2}
        step={0.05}
        change={tools.setShift}
      />
    </>
  );
}
