import { type ReceiptView } from "@hardline/contract";

const counted = (count: number, one: string, more: string): string => `${count} ${count === 1 ? one : more}`;

/** What was removed, as a page to be handed over. */
export function receiptLines(receipt: ReceiptView): string[] {
  const { name, customerId, at, by, tickets, routes, revisions, artworks, photos, files } = receipt;
  const { runs, comments, approvals, sheets, blobs, bytes } = receipt;
  return [
    `Removed for good: ${name} (customer ${customerId})`,
    `${at.replace("T", " ").slice(0, 19)} UTC, by ${by}`,
    "",
    `${counted(tickets.length, "ticket", "tickets")}${tickets.length > 0 ? `: ${tickets.join(", ")}` : ""}`,
    `${counted(routes, "route", "routes")} with ${counted(revisions, "revision", "revisions")}`,
    `${counted(files, "set of files", "sets of files")}, ${counted(runs, "run", "runs")}`,
    `${counted(comments, "comment", "comments")}, ${counted(approvals, "approval", "approvals")}`,
    counted(photos, "own photograph", "own photographs"),
    ...(sheets.length > 0 ? [`taken off the sheets: ${sheets.join(", ")}`] : []),
    `${counted(blobs, "file", "files")} of ${bytes} bytes in all`,
    "",
    ...artworks.map((a) => `artwork ${a.name}, SHA-256 ${a.sha256.slice(0, 64)}`),
  ];
}
