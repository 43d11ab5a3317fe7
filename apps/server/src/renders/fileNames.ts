/** Letters, digits and dashes of a text: "Harbour coasters, set of six" -> "harbour-coasters-set-of-six". */
export function slug(text: string): string {
  const plain = text
    .normalize("NFKD")
    .replace(/[\u0300-\u036f]/g, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-");
  return (
    plain
      .replace(/^-+|-+$/g, "")
      .slice(0, 40)
      .replace(/-+$/, "") || "unnamed"
  );
}

/** What every file of a hand-over is called, before its own name: ticket, piece, route, revision. */
export const fileStem = (
  ticket: number,
  piece: string,
  route: string,
  routeId: string,
  revision: number,
): string => `${ticket}-${slug(piece)}-${slug(route)}-${routeId}r${revision}`;
