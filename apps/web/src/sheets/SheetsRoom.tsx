import { figure } from "@hardline/core/inspect/check";
import { Button } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import { Link, useNavigate } from "react-router";
import { useNewSheet, useSheets } from "../api/sheets";
import css from "../shared/room/Room.module.css";
import { LevelMark } from "../shared/level";
import { tellFault } from "../shared/tell";
import { TopBar } from "../shell/TopBar";
import { Words } from "../shared/Words";
import { Trouble } from "../shared/Trouble";

/** All sheets of the shop. */
export function SheetsRoom() {
  const asked = useSheets();
  const { data: sheets = [] } = asked;
  const create = useNewSheet();
  const navigate = useNavigate();
  useDocumentTitle("Sheets, Hard Line");
  const add = () =>
    create.mutate(
      { name: "New sheet", body: { stock: { widthMm: 560, heightMm: 380 } } },
      {
        onSuccess: ({ id }) => void navigate(`/sheets/${id}`),
        onError: (e) => tellFault("No sheet was made", e),
      },
    );
  return (
    <div className={css.page}>
      <TopBar />
      <main className={css.main}>
        <div className={css.head}>
          <h1>Sheets</h1>
          <p>Pieces of one material, as close on the stock as the machine allows.</p>
          <Button onClick={add} loading={create.isPending}>
            New sheet
          </Button>
        </div>
        <Trouble title="The sheets cannot be shown" of={[asked]} />
        {sheets.length > 0 && (
          <table className={css.table}>
            <thead>
              <tr>
                <th scope="col">Sheet</th>
                <th scope="col">Pieces of</th>
                <th scope="col">Stock</th>
                <th scope="col" className={css.number}>
                  Placed
                </th>
                <th scope="col" className={css.number}>
                  Sheets
                </th>
                <th scope="col">Checks</th>
              </tr>
            </thead>
            <tbody>
              {sheets.map(({ id, name, body, placed, sheets: used, pieces, checks }) => {
                const wanted = body.pieces.reduce((sum, p) => sum + p.count, 0);
                const worst =
                  checks.find((c) => c.level === "stop") ?? checks.find((c) => c.level === "look");
                return (
                  <tr key={id}>
                    <th scope="row">
                      <Link to={`/sheets/${id}`}>{name}</Link>
                    </th>
                    <td>{pieces.map((p) => `${p.ticket} ${p.piece}`).join("; ") || "–"}</td>
                    <td className="mono">
                      <Words of={`${figure(body.stock.widthMm)} × ${figure(body.stock.heightMm)} mm`} />
                    </td>
                    <td className={`mono ${css.number}`}>
                      {placed} of {wanted}
                    </td>
                    <td className={`mono ${css.number}`}>{used}</td>
                    <td>
                      <LevelMark level={worst?.level ?? (checks.length > 0 ? "fine" : "none")} />{" "}
                      <Words
                        of={
                          worst?.text ??
                          (checks.length > 0
                            ? "fine"
                            : placed > 0
                              ? "its pieces are being made"
                              : "not arranged")
                        }
                      />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        )}
      </main>
    </div>
  );
}
