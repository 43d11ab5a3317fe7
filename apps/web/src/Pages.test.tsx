/** @jest-environment jsdom */
import { type TicketView } from "@hardline/contract";
import { TICKET_STATES } from "@hardline/contract/constants";
import { screen, waitFor } from "@testing-library/react";
import { Pages } from "./Pages";
import { serverOf, shown } from "./testing/page";

const ticket = {
  ...{
    id: "7",
    number: 1007,
    piece: "Tag for the gate",
    customer: "",
    due: null,
    pieces: 1,
    output: "laser",
  },
  ...{ material: "", materialColour: "", thumbnail: "", state: "new", looks: 0, stops: 0, routes: [] },
} as unknown as TicketView;

const COUNTS = Object.fromEntries(TICKET_STATES.map((state) => [state, 0]));

const at = (address: string) => {
  sessionStorage.clear();
  serverOf({
    "GET /api/tickets?state=all&order=due": { tickets: [ticket], next: null },
    "GET /api/tickets/counts?find=": COUNTS,
    "GET /api/materials": [],
    "GET /api/batches": [],
    "GET /api/machines": [],
    "GET /api/runs": [],
  });
  return shown(<Pages />, address);
};

test("an address that is no page says so and leads back", async () => {
  at("/tickest/7");
  expect(await screen.findByRole("heading", { level: 1 })).toBeTruthy();
  expect(screen.getByText(/\/tickest\/7/)).toBeTruthy();
  expect(screen.getAllByRole("link").some((a) => a.getAttribute("href") === "/")).toBe(true);
});

test("after another page was opened its heading has the focus, not the body", async () => {
  const { user } = at("/");
  await screen.findByText("Tag for the gate");
  await user.click(screen.getByRole("link", { name: "Batches" }));
  // What was pressed may keep it, as long as it is there.
  (document.activeElement as HTMLElement).blur();
  await screen.findByRole("heading", { level: 1, name: /Batches/ });
  await waitFor(() => expect(document.activeElement).not.toBe(document.body));
});

test("back on the board it stands where it was scrolled to", async () => {
  const { user, container } = at("/");
  await screen.findByText("Tag for the gate");
  const main = container.querySelector("main")!;
  main.scrollTop = 340;
  main.dispatchEvent(new Event("scroll"));
  await user.click(screen.getByRole("link", { name: "Materials" }));
  await screen.findByRole("heading", { level: 1, name: /Materials/ });
  await user.click(screen.getByRole("link", { name: "Tickets" }));
  await screen.findByText("Tag for the gate");
  expect(container.querySelector("main")!.scrollTop).toBe(340);
});
