/** @jest-environment jsdom */
import { type TicketView } from "@hardline/contract";
import { screen } from "@testing-library/react";
import { Route, Routes, useLocation } from "react-router";
import { serverOf, shown } from "../testing/page";
import { Board } from "./Board";

const ticket = (number: number, more: Partial<TicketView>): TicketView =>
  ({
    ...{ id: String(number), number, piece: `Piece ${number}`, customer: "", due: null, pieces: 1 },
    ...{
      output: "laser",
      material: "",
      thumbnail: "",
      state: "new",
      looks: 0,
      stops: 0,
      routes: [],
      ...more,
    },
  }) as unknown as TicketView;
const TICKETS = [
  ticket(1, { customer: "Skerry Light", state: "to look at", looks: 2 }),
  ticket(2, { customer: "Dune Bakery" }),
  ticket(3, { customer: "Skerry Light" }),
];
function Address() {
  const { search } = useLocation();
  return <output>{search}</output>;
}
const boardAt = (address: string) => {
  serverOf({ "GET /api/tickets?archived=false": TICKETS });
  return shown(
    <>
      <Address />
      <Routes>
        <Route path="/" element={<Board />} />
      </Routes>
    </>,
    address,
  );
};
const cards = () => screen.getAllByText(/^Piece \d$/).map((c) => c.textContent);

test("what is looked for and which state is shown stand in the address", async () => {
  const { user } = boardAt("/");
  expect(await screen.findAllByText(/^Piece \d$/)).toHaveLength(3);
  await user.type(screen.getByLabelText("Find a ticket"), "skerry");
  expect(cards().sort()).toEqual(["Piece 1", "Piece 3"]);
  await user.click(screen.getByRole("button", { name: /To look at/ }));
  expect(cards()).toEqual(["Piece 1"]);
  expect(screen.getByRole("status", { name: "" }).textContent).toBe("?state=to+look+at&find=skerry");
});

test("an address brings both back, and the way to the tickets keeps them", async () => {
  boardAt("/?find=dune");
  expect((await screen.findAllByText(/^Piece \d$/)).map((c) => c.textContent)).toEqual(["Piece 2"]);
  expect(screen.getByLabelText<HTMLInputElement>("Find a ticket").value).toBe("dune");
  expect(screen.getByRole("link", { name: "Tickets" }).getAttribute("href")).toBe(
    "/?state=to+look+at&find=skerry",
  );
});
