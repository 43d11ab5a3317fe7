/** @jest-environment jsdom */
import { type SessionView } from "@hardline/contract";
import { act, screen, waitFor } from "@testing-library/react";
import { ask } from "../api/client";
import { serverOf, shown } from "../testing/page";
import { Door } from "./Door";

const NOBODY: SessionView = { person: null, rights: [], by: null, first: false };
const IDA: SessionView = {
  person: { id: "1", name: "Ida Vell", role: "owner", hasPin: false, secondFactor: false },
  rights: ["see"],
  by: "password",
  first: false,
};
const page = (
  <Door>
    <p>The board</p>
  </Door>
);
const refusal = (title: string) => ({ type: "about:blank", title, status: 401, detail: "Sign in first." });

test("who is not known is asked, and nothing of the page is there", async () => {
  serverOf({ "GET /api/session": NOBODY });
  shown(page);
  expect(await screen.findByRole("heading", { name: "Sign in" })).toBeTruthy();
  expect(screen.queryByText("The board")).toBeNull();
});

test("a shop that has nobody asks for its owner", async () => {
  serverOf({ "GET /api/session": { ...NOBODY, first: true } });
  shown(page);
  expect(await screen.findByRole("heading", { name: "Who owns this shop?" })).toBeTruthy();
});

test("who is invited comes by, whoever is not known", async () => {
  serverOf({ "GET /api/session": NOBODY });
  shown(page, "/join/AAAA-BBBB-CCCC");
  expect(await screen.findByText("The board")).toBeTruthy();
  await act(() => new Promise((r) => setTimeout(r, 50)));
  expect(screen.queryByRole("heading", { name: "Sign in" })).toBeNull();
});

test("who was known and is no more is asked over the page, which stays; a second factor is asked for when it is wanted", async () => {
  let session: SessionView = IDA;
  let tries = 0;
  const asked = serverOf({
    "GET /api/session": () => session,
    "GET /api/tickets": refusal("Not signed in"),
    "POST /api/session": () => (++tries === 1 ? refusal("Second factor") : (session = IDA)),
  });
  const { user } = shown(page);
  await waitFor(() => expect(asked.map((a) => a.what)).toContain("GET /api/session"));
  await act(() => new Promise((r) => setTimeout(r, 20)));
  session = NOBODY;
  await expect(ask("/api/tickets")).rejects.toThrow("Sign in first.");
  expect(await screen.findByText(/You were signed out/)).toBeTruthy();
  expect(screen.getByText("The board")).toBeTruthy();
  await user.type(screen.getByLabelText("Name"), "Ida Vell");
  await user.type(screen.getByLabelText("Password"), "seven herring crates");
  await user.click(screen.getByRole("button", { name: "Sign in" }));
  await user.type(await screen.findByLabelText(/Six digits/), "12a3456");
  await user.click(screen.getByRole("button", { name: "Sign in" }));
  await waitFor(() => expect(screen.queryByText(/You were signed out/)).toBeNull());
  expect(asked.filter((a) => a.what === "POST /api/session").map((a) => a.body)).toEqual([
    { name: "Ida Vell", password: "seven herring crates" },
    { name: "Ida Vell", password: "seven herring crates", code: "123456" },
  ]);
});
