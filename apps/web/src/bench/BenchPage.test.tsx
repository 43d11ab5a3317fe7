/** @jest-environment jsdom */
import { type RouteView, type TicketView } from "@hardline/contract";
import { ticketFields } from "@hardline/contract/ticketFields";
import { readRoute, settingsOf, withSettings, type Route } from "@hardline/core/route/route";
import { screen, waitFor, within } from "@testing-library/react";
import { Route as At, Routes } from "react-router";
import { ROWS } from "../stages/faces";
import { serverOf, shown } from "../testing/page";
import { BenchPage } from "./BenchPage";

const ticket = {
  // Whatever fields a ticket has.
  ...Object.fromEntries(ticketFields().map(([name, { usual }]) => [name, usual])),
  ...{ id: "7", number: 1007, state: "draft", looks: 0, stops: 0, thumbnail: "", createdAt: "" },
  ...{ piece: "Tag for the gate", customer: "Farm Ost", due: null, pieces: 3, output: "laser" },
  ...{ material: "Birch", materialColour: "#efe7d6", note: "" },
  artwork: {
    ...{ id: "3", name: "tag.png", sha256: "00", kind: "png", bytes: 900, width: 600, height: 400 },
    ...{ vector: false, notes: [], reading: null },
  },
  routes: [{ id: "9", name: "Engraved", revision: 1 }],
} as unknown as TicketView;
const begun: RouteView = {
  ...{ id: "9", ticketId: "7", version: 1, revision: 1, canUndo: false, canRedo: false, savedAt: "" },
  route: readRoute({
    format: "hard-line-route",
    version: 1,
    name: "Engraved",
    stages: [
      { stage: "size", widthMm: 60, dotsPerInch: 254 },
      { stage: "tone" },
      { stage: "blackWhite", method: "scatter" },
    ],
  }),
};

/** The bench with that route, and a server that keeps what it is sent. */
function bench(at = "/tickets/7/routes/9", more: Parameters<typeof serverOf>[0] = {}) {
  const kept = { now: begun };
  localStorage.clear();
  const asked = serverOf({
    "GET /api/tickets/7": ticket,
    "GET /api/routes/9": () => kept.now,
    "PUT /api/routes/9": (body) => {
      const { route, version } = body as { route: Route; version: number };
      return (kept.now = { ...begun, route, version: version + 1, revision: version + 1, canUndo: true });
    },
    "GET /api/materials": [],
    "GET /api/machines": [],
    "GET /api/house-routes": [],
    "GET /api/tickets/7/renders": [],
    "GET /api/routes/9/renders": [],
    ...more,
  });
  const page = (
    <Routes>
      <At path="/tickets/:ticketId" element={<BenchPage />} />
      <At path="/tickets/:ticketId/routes/:routeId" element={<BenchPage />} />
    </Routes>
  );
  return { asked, kept, ...shown(page, at) };
}
const docket = async () => within(await screen.findByRole("complementary", { name: "Docket" }));

test("every row of the docket opens; what is not on the route can be put on it, and is saved", async () => {
  const { user, kept } = bench();
  const rows = await docket();
  for (const { title, stage } of ROWS) {
    const head = rows.getByRole("button", { name: new RegExp(`^\\d+ ?${title}(?![a-z])`) });
    if (head.getAttribute("aria-expanded") === "false") await user.click(head);
    expect(head.getAttribute("aria-expanded")).toBe("true");
    const add = rows.queryByRole("button", { name: "Put it on" });
    if (add) await user.click(add);
    // What was pressed is gone, and the focus is not lost with it.
    if (add) expect([title, document.activeElement === document.body]).toEqual([title, false]);
    const panel = within(head.parentElement!);
    if (stage) expect([title, panel.queryByText(/is not on this route/)]).toEqual([title, null]);
    for (const field of panel.queryAllByRole("textbox"))
      expect([title, field.outerHTML, nameOf(field)]).not.toEqual([title, field.outerHTML, ""]);
  }
  await waitFor(() => expect(kept.now.route.stages.length).toBeGreaterThan(7), { timeout: 5000 });
});

/** What a field is called: by its own label, or the one around or beside it. */
const nameOf = (field: HTMLElement): string =>
  field.getAttribute("aria-label") ??
  [...((field as HTMLInputElement).labels ?? [])].map((l) => l.textContent).join(" ");

test("a ticket's dialog sends what was changed and nothing else, and wants the piece named", async () => {
  const { user, asked } = bench(undefined, {
    "PATCH /api/tickets/7": { ...ticket, piece: "Sign for the barn" },
  });
  await user.click((await docket()).getByTitle("Edit the ticket"));
  const dialog = within(await screen.findByRole("dialog", { name: "Ticket 1007" }));
  const piece = dialog.getByLabelText("Piece");
  await user.clear(piece);
  await user.click(dialog.getByRole("button", { name: "Save" }));
  expect(await dialog.findByText("Piece is needed")).toBeTruthy();
  await user.type(piece, "Sign for the barn");
  await user.click(dialog.getByRole("button", { name: "Save" }));
  expect(asked).toContainEqual({ what: "PATCH /api/tickets/7", body: { piece: "Sign for the barn" } });
  expect(await screen.findByText("Sign for the barn")).toBeTruthy();
});

test("a change that the server refuses since somebody else saved is put before the operator, both sides, and either goes on", async () => {
  const theirs = {
    ...begun,
    version: 5,
    revision: 5,
    route: withSettings(begun.route, "size", { widthMm: 80 }),
  };
  const sent: { version: number; route: Route }[] = [];
  const { user } = bench("/tickets/7/routes/9?stage=size", {
    "PUT /api/routes/9": (body) => {
      sent.push(body as (typeof sent)[number]);
      return sent.length > 1
        ? { ...begun, ...sent[1], version: 6, revision: 6 }
        : { type: "", title: "", status: 409, detail: "Changed elsewhere.", current: theirs };
    },
  });
  const field = await screen.findByLabelText("Width");
  await user.clear(field);
  await user.type(field, "70{Enter}");
  const both = within(await screen.findByRole("dialog", {}, { timeout: 5000 }));
  expect(both.getByRole("columnheader", { name: "There, revision 5" })).toBeTruthy();
  expect(both.getByRole("row", { name: /^Size.*70.*80/ })).toBeTruthy();
  await user.click(both.getByRole("button", { name: "Keep mine" }));
  await waitFor(() => expect(sent).toHaveLength(2));
  expect([sent[1].version, settingsOf(sent[1].route, "size")!.widthMm]).toEqual([5, 70]);
});

test("the test strip opens by its key, tells which of its ways is in force, takes another by its number, and closes", async () => {
  const { user } = bench();
  await docket();
  await user.keyboard("s");
  const strip = within(await screen.findByRole("region", { name: "Test strip" }));
  const ways = strip.getAllByTitle(/^Keep it/);
  expect(ways.length).toBeGreaterThan(2);
  // The one that is in force is told apart; another is taken by its number.
  const kept = ways.filter((w) => w.getAttribute("aria-pressed") === "true");
  expect(kept).toHaveLength(1);
  const other = ways.findIndex((w) => w !== kept[0]);
  await user.keyboard(String(other + 1));
  await waitFor(() => expect(ways[other].getAttribute("aria-pressed")).toBe("true"));
  await user.keyboard("{Escape}");
  await waitFor(() => expect(screen.queryByRole("region", { name: "Test strip" })).toBeNull());
});

test("a route of another ticket, and one that cannot be had, are said and not shown", async () => {
  bench(undefined, { "GET /api/routes/9": { ...begun, ticketId: "8" } });
  expect(await screen.findByText("Ticket 1007 has no such route")).toBeTruthy();
});
