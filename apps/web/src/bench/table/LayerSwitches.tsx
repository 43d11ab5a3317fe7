import { type Layer } from "../../engine/protocol";
import { css as colourText } from "../../table/colour";
import css from "./LightTable.module.css";
import { type Table } from "./useTable";

/** Plates, or sets of paths, of what is shown: each by its name, to be shown or hidden. */
export function LayerSwitches({ layers, table }: { layers: readonly Layer[]; table: Table }) {
  if (layers.length === 0) return null;
  return (
    <div className={css.layers} role="group" aria-label="Shown">
      {layers.map(({ name, colour }) => {
        const on = !table.hidden.includes(name);
        return (
          <button
            key={name}
            type="button"
            aria-pressed={on}
            title={on ? `Hide ${name}` : `Show ${name}`}
            onClick={() => table.toggleLayer(name)}
          >
            <i style={{ borderColor: colourText(colour), background: on ? colourText(colour) : "none" }} />
            {name}
          </button>
        );
      })}
    </div>
  );
}
