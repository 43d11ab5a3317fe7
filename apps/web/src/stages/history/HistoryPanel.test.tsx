/** @jest-environment jsdom */
import { type RevisionsView, type RevisionView } from "@hardline/contract";
import { cleanup, screen, waitFor } from "@testing-library/react";
import { serverOf, shown } from "../../testing/page";
import { type BenchScene } from "../face";
import { HistoryPanel } from "./HistoryPanel";
import { type Looking } from "./useLooking";

const revision = (n: number, more: Partial<RevisionView> = {}): RevisionView => ({
  ...{
    revision: n,
    parent: n - 1,
    at: "2026-03-01T08:00:00Z",
    by: { id: "1", name: "Ida Vell" },
    name: null,
  },
  ...{ changes: [], broughtBack: null, stands: false, handedOver: false, approvals: [], thumbnailUrl: null },
  ...{ looks: null, stops: null },
  ...more,
});
const ALL: RevisionsView = {
  revisions: [
    revision(3, { stands: true, broughtBack: 1, by: { id: "2", name: "Rowan Tate" } }),
    revision(2, {
      changes: [
        { stage: "cutLine", words: "border 2 mm, was 0" },
        { stage: "cutLine", words: "kind kiss, was through" },
        { stage: "route", words: "name Oak, was Pine" },
      ],
      handedOver: true,
      name: "as first sent",
    }),
    revision(1, { parent: null }),
  ],
  next: null,
  people: [
    { id: "1", name: "Ida Vell" },
    { id: "2", name: "Rowan Tate" },
  ],
};

function panel(looking: Partial<Looking> = {}) {
  const set = { left: null as number | null };
  const tools: Looking = {
    ...{ left: null, right: null, beside: false, laid: null },
    setLeft: (n) => (set.left = n),
    ...{ setRight: () => undefined, setBeside: () => undefined },
    ...looking,
  };
  const brought: number[] = [];
  const scene = {
    saved: { id: "7", version: 3, revision: 3 },
    keeper: { bringBack: async (n: number) => void brought.push(n) },
  } as unknown as BenchScene;
  return { set, brought, ...shown(<HistoryPanel scene={scene} tools={tools} />) };
}

test("each revision says who, and what changed, in words that stand together by stage", async () => {
  serverOf({ "GET /api/routes/7/revisions?": ALL });
  panel();
  const rows = (await screen.findAllByRole("listitem")).map((row) => row.textContent);
  expect(rows[0]).toContain("Rowan Tate");
  expect(rows[0]).toContain("brought back r1");
  expect(rows[1]).toContain("Cut line: border 2 mm, was 0, kind kiss, was through; name Oak, was Pine");
  expect(rows[1]).toContain("as first sent");
  expect(rows[1]).toContain("handed over");
  expect(rows[2]).toContain("begun");
});

test("by whom and what is asked of the server", async () => {
  const asked = serverOf({
    "GET /api/routes/7/revisions?": ALL,
    "GET /api/routes/7/revisions?person=2": { ...ALL, revisions: [ALL.revisions[0]] },
    "GET /api/routes/7/revisions?person=2&stage=cutLine": { ...ALL, revisions: [] },
  });
  const { user } = panel();
  await screen.findAllByRole("listitem");
  await user.selectOptions(screen.getByLabelText("By whom"), "Rowan Tate");
  await waitFor(() => expect(screen.getAllByRole("listitem")).toHaveLength(1));
  await user.selectOptions(screen.getByLabelText("What changed"), "Cut line");
  expect(await screen.findByText("No revision is such.")).toBeTruthy();
  expect(asked.at(-1)!.what).toBe("GET /api/routes/7/revisions?person=2&stage=cutLine");
});

test("a press chooses what is compared; the chosen one is brought back, the one that stands is not", async () => {
  serverOf({ "GET /api/routes/7/revisions?": ALL });
  const { user, set } = panel();
  await user.click(await screen.findByTitle("Compare revision 2"));
  expect(set.left).toBe(2);
  cleanup();
  const chosen = panel({ left: 2 });
  await chosen.user.click(await screen.findByRole("button", { name: "Bring back" }));
  expect(chosen.brought).toEqual([2]);
  cleanup();
  panel({ left: 3 });
  await screen.findByRole("button", { name: "Name" });
  expect(screen.queryByRole("button", { name: "Bring back" })).toBeNull();
});
