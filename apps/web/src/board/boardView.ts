import { type TicketState } from "@hardline/contract";
import { TICKET_STATES, type TicketOrder } from "@hardline/contract/constants";
import { useCallback, useLayoutEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { keepBoard } from "../shared/lastBoard";
import { SORTS } from "./arrange";

export type Filter = "all" | TicketState;

/** What of the tickets is shown, and in which order. */
export interface BoardView {
  readonly filter: Filter;
  readonly sort: TicketOrder;
  readonly search: string;
}

const USUAL: BoardView = { filter: "all", sort: "due", search: "" };
const PLACE = "hardline.board.place";

/** What an address says of the board's view; whatever it does not know is as usual. */
export function viewIn(params: URLSearchParams): BoardView {
  const [filter, sort] = [params.get("state"), params.get("order")];
  return {
    filter: TICKET_STATES.find((s) => s === filter) ?? USUAL.filter,
    sort: SORTS.find((s) => s.value === sort)?.value ?? USUAL.sort,
    search: params.get("find") ?? USUAL.search,
  };
}

/** What an address says where a view is not as usual. */
export function paramsOf({ filter, sort, search }: BoardView): URLSearchParams {
  const params = new URLSearchParams();
  if (filter !== USUAL.filter) params.set("state", filter);
  if (sort !== USUAL.sort) params.set("order", sort);
  if (search !== USUAL.search) params.set("find", search);
  return params;
}

/** The board's view, kept in the address. */
export function useBoardView() {
  const [params, setParams] = useSearchParams();
  // What is typed is here at once; the address may follow a moment later.
  const [view, setView] = useState(() => viewIn(params));
  const latest = useRef(view);
  const set = (change: Partial<BoardView>): void => {
    latest.current = { ...latest.current, ...change };
    setView(latest.current);
    const next = paramsOf(latest.current);
    keepBoard(next.toString());
    setParams(next, { replace: true });
  };
  return { ...view, set };
}

/** Where the board was scrolled to, in pixels. */
export const placeKept = (): number => Number(sessionStorage.getItem(PLACE) ?? 0);

/** Where the board was scrolled to, brought back when it is opened again. */
export function useScrollPlace(ready: boolean) {
  const scroller = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    if (ready && scroller.current) scroller.current.scrollTop = placeKept();
  }, [ready]);
  const keepPlace = useCallback(() => {
    if (scroller.current) sessionStorage.setItem(PLACE, String(Math.round(scroller.current.scrollTop)));
  }, []);
  return { scroller, keepPlace };
}
