import { type SheetView } from "@hardline/contract";
import { type SheetBody } from "@hardline/core/sheet/sheetFile";
import { Select } from "@mantine/core";
import { useState } from "react";
import { useSomeTickets } from "../api/tickets";
import bay from "../shell/bay/Bay.module.css";
import { NumberField } from "../shared/fields/NumberField";
import { steady } from "../shared/steady";
import { useTyped } from "../shared/useTyped";
import css from "./SheetTable.module.css";
import { type SheetWork } from "./useSheetWork";

interface Props {
  readonly sheet: SheetView;
  readonly body: SheetBody;
  /** Of each piece: how many lie on the sheets, and the revision they are of. */
  readonly placed: readonly number[];
  readonly revisions: readonly (number | undefined)[];
  readonly put: SheetWork["put"];
}

/** Which routes of which tickets go on the sheet, and how many of each. */
export const SheetPieces = steady(Pieces);

function Pieces({ sheet, body, placed, revisions, put }: Props) {
  const [typed, setTyped] = useState("");
  const set = (next: typeof body.pieces) => put({ body: { ...body, pieces: next, kept: [] }, placings: [] });
  const material = sheet.pieces[0]?.material.trim().toLowerCase();
  const find = useTyped(`${material ?? ""} ${typed}`);
  const { data: tickets = [] } = useSomeTickets({ find });
  const fitting = tickets
    .filter((t) => t.state !== "archived")
    .filter((t) => !material || t.material.trim().toLowerCase() === material);
  const options = fitting.map((t) => ({
    group: `${t.number} ${t.piece}`,
    items: t.routes
      .filter((r) => !body.pieces.some((p) => p.routeId === r.id))
      .map((r) => ({ value: r.id, label: `${t.number} ${r.name}` })),
  }));
  return (
    <div className={bay.block}>
      <h2>Pieces</h2>
      <ul className={bay.rows}>
        {body.pieces.map(({ routeId, count }, k) => {
          const known = sheet.pieces.find((p) => p.routeId === routeId);
          const stale = known && revisions[k] !== undefined && known.revision !== revisions[k];
          return (
            <li key={routeId}>
              <span className={bay.grow}>
                {known ? `${known.ticket} ${known.piece}` : "…"}
                <small>
                  {known?.route}, {placed[k]} placed
                  {stale ? ", changed since: arrange anew" : ""}
                </small>
              </span>
              <span className={css.count}>
                <NumberField
                  label={`How many of ${known?.piece ?? "it"}`}
                  value={count}
                  min={1}
                  max={10000}
                  decimals={0}
                  change={(n) => set(body.pieces.map((p, j) => (j === k ? { ...p, count: n } : p)))}
                />
              </span>
              <button
                type="button"
                className={bay.plain}
                onClick={() => set(body.pieces.filter((_, j) => j !== k))}
              >
                Take off
              </button>
            </li>
          );
        })}
      </ul>
      <Select
        aria-label="Add a piece"
        placeholder={material ? `Add a piece of ${sheet.pieces[0].material}` : "Add a piece"}
        data={options.filter((o) => o.items.length > 0)}
        value={null}
        searchable
        filter={({ options: found }) => found}
        searchValue={typed}
        onSearchChange={setTyped}
        nothingFoundMessage="No such ticket"
        onChange={(routeId) => {
          const ticket = tickets.find((t) => t.routes.some((r) => r.id === routeId));
          if (routeId) set([...body.pieces, { routeId, count: ticket?.pieces ?? 1 }]);
        }}
      />
    </div>
  );
}
