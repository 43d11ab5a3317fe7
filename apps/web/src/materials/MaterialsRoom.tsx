import { type MaterialView } from "@hardline/contract";
import { figure } from "@hardline/core/inspect/check";
import { Button } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import dayjs from "dayjs";
import { useState } from "react";
import { useMaterials } from "../api/house";
import { useMay } from "../api/people";
import { TopBar } from "../shell/TopBar";
import { MaterialForm } from "./MaterialForm";
import css from "./Materials.module.css";
import room from "../shared/room/Room.module.css";
import { Swatch } from "./Swatch";
import { WedgePanel } from "./WedgePanel";
import { toUnit, useUnit } from "../shared/unit";
import { Trouble } from "../shared/Trouble";

/** What the shop knows of its materials: how each takes a mark, what it holds, what it looks like. */
export function MaterialsRoom() {
  const asked = useMaterials();
  const { data = [], isPending } = asked;
  const { unit } = useUnit();
  const mayChange = useMay("shop");
  const [open, setOpen] = useState<MaterialView | "new" | null>(null);
  const [wedge, setWedge] = useState<MaterialView | null>(null);
  useDocumentTitle("Materials, Hard Line");
  return (
    <div className={room.page}>
      <TopBar />
      <main className={room.main}>
        <div className={room.head}>
          <h1>Materials</h1>
          <p>Choosing one for a route sets its polarity, resolution and limits.</p>
          {mayChange && <Button onClick={() => setOpen("new")}>New material</Button>}
        </div>
        <Trouble title="The materials cannot be shown" of={[asked]} />
        {isPending && (
          <p role="status" aria-label="Loading materials">
            …
          </p>
        )}
        {data.length > 0 && (
          <table className={`${room.table} ${css.table}`}>
            <thead>
              <tr>
                <th scope="col">Material</th>
                <th scope="col">Polarity</th>
                <th scope="col" className={room.number}>
                  Dots/in
                </th>
                <th scope="col" className={room.number}>
                  Mark, {unit}
                </th>
                <th scope="col" className={room.number}>
                  Gap, {unit}
                </th>
                <th scope="col" className={room.number}>
                  Stroke, {unit}
                </th>
                <th scope="col">Pattern</th>
                <th scope="col">Wedge</th>
                <th scope="col" className={room.number}>
                  Routes
                </th>
              </tr>
            </thead>
            <tbody>
              {data.map((m) => (
                <tr key={m.key} onClick={() => setOpen(m)}>
                  <th scope="row">
                    <Swatch material={m} />
                    <button type="button" onClick={() => setOpen(m)}>
                      {m.name}
                    </button>
                  </th>
                  <td>{m.answer}</td>
                  <td className={`mono ${room.number}`}>{figure(m.dotsPerInch)}</td>
                  <td className={`mono ${room.number}`}>
                    {figure(toUnit(m.dotMm, unit), unit === "mm" ? 3 : 4)}
                  </td>
                  <td className={`mono ${room.number}`}>
                    {figure(toUnit(m.gapMm, unit), unit === "mm" ? 3 : 4)}
                  </td>
                  <td className={`mono ${room.number}`}>
                    {figure(toUnit(m.strokeMm, unit), unit === "mm" ? 3 : 4)}
                  </td>
                  <td>{m.pattern === "screen" ? `screen, ${figure(m.linesPerInch)} lines/in` : m.pattern}</td>
                  <td onClick={(e) => e.stopPropagation()}>
                    <button type="button" className={css.wedge} onClick={() => setWedge(m)}>
                      {m.curve
                        ? `${m.curve.version}, ${dayjs(m.curve.createdAt).format("D MMM")}`
                        : "Measure"}
                    </button>
                  </td>
                  <td className={`mono ${room.number}`}>{m.inUse || "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      {wedge && <WedgePanel material={wedge} close={() => setWedge(null)} />}
      {open && (
        <MaterialForm
          key={open === "new" ? "new" : open.key}
          material={open === "new" ? null : open}
          close={() => setOpen(null)}
        />
      )}
    </div>
  );
}
