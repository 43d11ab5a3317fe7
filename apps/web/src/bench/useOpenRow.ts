import { type Route } from "@hardline/core/route/route";
import { type StageId } from "@hardline/core/stage/stages";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { ROWS, rowOf, type Row } from "../stages/faces";

/** The last stage of a route; the first that there is where it has none. */
export const lastOf = (route: Route): StageId =>
  route.stages[route.stages.length - 1]?.stage ?? ROWS[0].stage!;

/** Which row of the docket is open. The address names it (`?stage=`), so that it is open again when the page is. */
export function useOpenRow(route: Route): readonly [Row, (row: Row) => void] {
  const [params, setParams] = useSearchParams();
  const [open, setRow] = useState(
    () => ROWS.find((row) => row.id === params.get("stage")) ?? rowOf(lastOf(route)),
  );
  const setOpen = (row: Row): void => {
    setRow(row); // at once; the address may follow a moment later
    setParams(
      (now) => {
        const next = new URLSearchParams(now);
        next.set("stage", row.id);
        return next;
      },
      { replace: true },
    );
  };
  return [open, setOpen];
}
