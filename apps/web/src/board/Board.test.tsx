/** @jest-environment jsdom */
import { type TicketView } from "@hardline/contract";
import { TICKET_STATES } from "@hardline/contract/constants";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { Route, Routes, useLocation } from "react-router";
import { serverOf, shown } from "../testing/page";
import { ticketOf as ticket } from "../testing/ticket";
import { Board } from "./Board";

const THREE = [
  ticket(1, { customer: "Skerry Light", state: "to look at", looks: 2 }),
  ticket(2, { customer: "Dune Bakery" }),
  ticket(3, { customer: "Skerry Light" }),
];
function Address() {
  const { search } = useLocation();
  return <output>{search}</output>;
}
/** A server that finds what it is asked for, a few tickets at a time. */
const boardAt = (address: string, all: readonly TicketView[] = THREE, most = 2) => {
  const asked = serverOf({});
  const real = window.fetch;
  window.fetch = (async (path: string, init?: RequestInit) => {
    const { pathname, searchParams } = new URL(path, "http://shop");
    const find = searchParams.get("find") ?? "";
    const found = all.filter(
      (t) =>
        find.split(" ").every((w) => `${t.piece} ${t.customer}`.toLowerCase().includes(w)) &&
        ["all", null, t.state].includes(searchParams.get("state")),
    );
    asked.push({ what: `GET ${path}`, body: null });
    const answer = (body: unknown) => ({ ok: true, status: 200, json: async () => body }) as Response;
    if (pathname === "/api/tickets/counts")
      return answer(
        Object.fromEntries(TICKET_STATES.map((s) => [s, found.filter((t) => t.state === s).length])),
      );
    if (pathname !== "/api/tickets") return real(path, init);
    const from = Number(searchParams.get("after") ?? 0);
    return answer({
      tickets: found.slice(from, from + most),
      next: from + most < found.length ? `${from + most}` : null,
    });
  }) as typeof fetch;
  const page = shown(
    <>
      <Address />
      <Routes>
        <Route path="/" element={<Board />} />
      </Routes>
    </>,
    address,
  );
  return { asked, ...page };
};
const cards = () => screen.getAllByText(/^Piece \d$/).map((c) => c.textContent);

test("what is looked for and which state is shown stand in the address, and are asked for", async () => {
  const { user } = boardAt("/");
  expect(await screen.findAllByText(/^Piece \d$/)).toHaveLength(2);
  await user.type(screen.getByLabelText("Find a ticket"), "skerry");
  await waitFor(() => expect(cards().sort()).toEqual(["Piece 1", "Piece 3"]));
  await user.click(screen.getByRole("button", { name: /To look at/ }));
  await waitFor(() => expect(cards()).toEqual(["Piece 1"]));
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

test("the board is asked for in stretches, and every state is counted", async () => {
  const { user, asked } = boardAt("/");
  await screen.findAllByText(/^Piece \d$/);
  expect(cards()).toEqual(["Piece 1", "Piece 2"]);
  await user.click(screen.getByRole("button", { name: "Show more" }));
  await waitFor(() => expect(cards()).toEqual(["Piece 1", "Piece 2", "Piece 3"]));
  expect(screen.queryByRole("button", { name: "Show more" })).toBeNull();
  expect(asked.map((a) => a.what)).toContain("GET /api/tickets?state=all&order=due&after=2");
  expect(await screen.findByRole("button", { name: /^All ?3$/ })).toBeTruthy();
  expect(screen.getByRole("button", { name: /^To look at ?1$/ })).toBeTruthy();
});

test("where nothing is found that is said", async () => {
  boardAt("/?find=zebra");
  expect(await screen.findByText("No ticket with “zebra”.")).toBeTruthy();
});

describe("many tickets", () => {
  const sizes = { clientHeight: 690, clientWidth: 1000 };
  const many = Array.from({ length: 4000 }, (_, k) => ticket(k + 1, { piece: `Piece ${k + 1}` }));
  const numbers = () => screen.queryAllByText(/^Piece \d+$/).map((c) => Number(c.textContent!.slice(6)));
  beforeEach(() => {
    sessionStorage.clear();
    for (const [name, value] of Object.entries(sizes))
      Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get: () => value });
    // What a browser does when it is told where to scroll to.
    Element.prototype.scrollTo = function (this: Element, to?: ScrollToOptions | number) {
      if (typeof to === "object") this.scrollTop = to.top ?? 0;
      setTimeout(() => fireEvent.scroll(this));
    } as typeof Element.prototype.scrollTo;
  });
  afterEach(() => {
    for (const name of Object.keys(sizes))
      delete (HTMLElement.prototype as unknown as Record<string, unknown>)[name];
    delete (Element.prototype as unknown as Record<string, unknown>).scrollTo;
  });

  test("those near what is in sight are in the page, and others as it is scrolled", async () => {
    const { container } = boardAt("/", many, many.length);
    // Cards of at least 232 pixels with 10 between, 4 to a row; rows of 108 with 9 between: 6 in sight, as many beyond.
    await waitFor(() => expect(numbers()).toEqual(Array.from({ length: 48 }, (_, k) => k + 1)));
    const main = container.querySelector("main")!;
    main.scrollTop = 500 * 117;
    fireEvent.scroll(main);
    await waitFor(() => expect(numbers()[0]).toBe((500 - 6) * 4 + 1));
    expect(numbers()).toHaveLength(4 * (6 + 6 + 6));
    // What is not in the page takes its room: a thousand rows in all.
    const { paddingTop, paddingBottom } = container.querySelector("section")!.parentElement!.style;
    expect(parseFloat(paddingTop)).toBe(494 * 117);
    expect(parseFloat(paddingTop) + parseFloat(paddingBottom) + 18 * 117 - 9).toBe(1000 * 117 - 9);
  });

  test("opened again, the board is where it was", async () => {
    sessionStorage.setItem("hardline.board.place", String(300 * 117));
    const { container } = boardAt("/", many, many.length);
    await waitFor(() => expect(numbers()[0]).toBe((300 - 6) * 4 + 1));
    expect(container.querySelector("main")!.scrollTop).toBe(300 * 117);
  });
});
