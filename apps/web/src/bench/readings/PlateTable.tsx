import { type PlateReading } from "@hardline/core/inspect/check";
import { css as colourText } from "../../table/colour";
import css from "./PlateTable.module.css";

/** What each plate covers, and the ink that all pieces take. */
export function PlateTable({ plates, pieces }: { plates: readonly PlateReading[]; pieces: number }) {
  return (
    <table className={css.plates}>
      <thead>
        <tr>
          <th scope="col">Plate</th>
          <th scope="col">%</th>
          <th scope="col">cm²</th>
          <th scope="col" title={`Ink for ${pieces} ${pieces === 1 ? "piece" : "pieces"}`}>
            ml ×{pieces}
          </th>
        </tr>
      </thead>
      <tbody>
        {plates.map(({ name, colour, percent, mm2, millilitres }) => (
          <tr key={name}>
            <th scope="row">
              <i style={{ background: colourText(colour) }} />
              {name}
            </th>
            <td className="mono">{percent.toFixed(1)}</td>
            <td className="mono">{(mm2 / 100).toFixed(1)}</td>
            <td className="mono">{(millilitres * pieces).toFixed(1)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
