import { type ReceiptView } from "@hardline/contract";
import { receiptLines } from "./receipt";

const RECEIPT: ReceiptView = {
  ...{ customerId: "12", name: "Corran Café", at: "2026-03-01T08:09:10.123Z", by: "Ann Orrin" },
  ...{ tickets: [1042, 1050], routes: 3, revisions: 17, photos: 1, files: 2, runs: 0, comments: 1 },
  ...{ approvals: 1, sheets: ["Mixed"], blobs: 9, bytes: 123456 },
  artworks: [{ name: "gull.png", sha256: `${"a".repeat(64)}#page=2` }],
};

test("a receipt says what went, by whom and when, with the fingerprint of each artwork", () => {
  expect(receiptLines(RECEIPT)).toEqual([
    "Removed for good: Corran Café (customer 12)",
    "2026-03-01 08:09:10 UTC, by Ann Orrin",
    "",
    "2 tickets: 1042, 1050",
    "3 routes with 17 revisions",
    "2 sets of files, 0 runs",
    "1 comment, 1 approval",
    "1 own photograph",
    "taken off the sheets: Mixed",
    "9 files of 123456 bytes in all",
    "",
    `artwork gull.png, SHA-256 ${"a".repeat(64)}`,
  ]);
  const [, , , tickets] = receiptLines({ ...RECEIPT, tickets: [], sheets: [] });
  expect(tickets).toBe("0 tickets");
  expect(receiptLines({ ...RECEIPT, sheets: [] }).some((l) => l.includes("sheets"))).toBe(false);
});
