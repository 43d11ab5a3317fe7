/** @jest-environment jsdom */
import { type TicketView } from "@hardline/contract";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useRouteView } from "../api/tickets";
import { serverOf, shown } from "../testing/page";
import { ticketOf } from "../testing/ticket";
import { TicketCard } from "./TicketCard";

const read: string[] = [];
jest.mock("../bench/BenchPage", () => ({ readAhead: ({ id }: { id: string }) => read.push(id) }));

const ticket = (number: number) =>
  ticketOf(number, {
    routes: [{ id: `r${number}` }],
    artwork: { id: `a${number}` },
  } as unknown as Partial<TicketView>);
const ROUTES = "GET /api/routes/r1";

function Opened() {
  const { data } = useRouteView("r1");
  return <output>{data ? `version ${data.version}` : "waiting"}</output>;
}
const cards = (
  <>
    <TicketCard ticket={ticket(1)} />
    <TicketCard ticket={ticket(2)} />
  </>
);
const card = (id: string) => screen.getByText(`Piece ${id}`).closest("a")!;
const later = (ms: number) => new Promise((done) => setTimeout(done, ms));

beforeEach(() => (read.length = 0));

test("what a card's first picture is made of is read ahead where a pointer rests on it, not where it passes over", async () => {
  serverOf({});
  shown(cards);
  fireEvent.pointerEnter(card("1"));
  fireEvent.pointerLeave(card("1"));
  fireEvent.pointerEnter(card("2"));
  await waitFor(() => expect(read).toEqual(["a2"]));
  fireEvent.focus(card("1"));
  fireEvent.pointerLeave(card("1"));
  await later(150);
  expect(read).toEqual(["a2"]);
});

test("a route is asked for once, with the press", async () => {
  const asked = serverOf({ [ROUTES]: { id: "r1", version: 4 } });
  shown(cards);
  fireEvent.pointerDown(card("1"));
  shown(<Opened />);
  expect(await screen.findByText("version 4")).toBeTruthy();
  expect(asked.filter((a) => a.what === ROUTES)).toHaveLength(1);
});

test("what was asked for long ago is asked for anew", async () => {
  let version = 4;
  const asked = serverOf({ [ROUTES]: () => ({ id: "r1", version }) });
  shown(cards);
  fireEvent.pointerDown(card("1"));
  await later(1050);
  version = 5; // another operator's
  shown(<Opened />);
  expect(await screen.findByText("version 5")).toBeTruthy();
  expect(asked.filter((a) => a.what === ROUTES)).toHaveLength(2);
});

test("an answer that went wrong is asked for again", async () => {
  let times = 0;
  serverOf({
    [ROUTES]: () => {
      if (times++ === 0) throw new Error("the connection is gone");
      return { id: "r1", version: 6 };
    },
  });
  shown(cards);
  fireEvent.pointerDown(card("1"));
  shown(<Opened />);
  expect(await screen.findByText("version 6")).toBeTruthy();
});
