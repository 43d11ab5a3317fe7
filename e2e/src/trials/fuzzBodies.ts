/** Bodies that would be right, of what is asked about people, history, customers and things: by operation. */
export const moreBodies = (of: {
  readonly routeId: string;
  readonly ticketId: string;
  readonly artworkId: string;
}): Readonly<Record<string, unknown>> => ({
  "POST /api/session": { name: "Ann Orrin", password: "not this one at all", code: "123456" },
  "POST /api/session/person": { personId: "1", pin: "0246" },
  "POST /api/first-owner": { code: "AAAA-BBBB-CCCC", name: "Nobody", password: "nine wooden ladders" },
  "POST /api/invitations/{code}": { password: "nine wooden ladders" },
  "PUT /api/own/password": { old: "not this one at all", password: "nine wooden ladders" },
  "PUT /api/own/pin": { password: "not this one at all", pin: "0246" },
  "POST /api/own/second-factor": { password: "not this one at all" },
  "PUT /api/own/second-factor": { code: "123456" },
  "DELETE /api/own/second-factor": { password: "not this one at all" },
  "POST /api/people": { name: "Somebody", role: "floor" },
  "PATCH /api/people/{id}": { name: "Somebody else", role: "operator" },
  "POST /api/tokens": { name: "A program", scopes: ["see"] },
  "PUT /api/routes/{id}/revisions/{revision}/name": { name: "as first sent" },
  "POST /api/routes/{id}/revisions/{revision}/bring-back": { version: 2 },
  "POST /api/routes/{id}/revisions/{revision}/approvals": { by: "the customer" },
  "POST /api/tickets/{id}/comments": { text: "Look here", routeId: of.routeId, at: [0.5, 0.5] },
  "POST /api/customers": { name: "Somebody Ltd", email: "a@b.example", phone: "1", address: "x", note: "y" },
  "PATCH /api/customers/{id}": { name: "Somebody Ltd", note: "z" },
  "POST /api/tickets/{id}/again": {
    ...{ pieces: 3, due: "2026-12-24", materialColour: "#aabbcc", note: "n" },
    words: [{ was: "Ann", now: "Bo" }],
  },
  "POST /api/artworks/{id}/pages": { page: 1, box: "crop" },
  "POST /api/routes/{id}/renders": { revision: 2, unit: "in" },
  "POST /api/photos": { artworkId: of.artworkId, ticketId: of.ticketId },
  "POST /api/places": { name: "left chest", area: "shirt", at: [120, 80] },
  "POST /api/things": { name: "Mug", thing: { photo: "0".repeat(64), kind: "flat" } },
});

/** Those that would leave nobody to ask further, or ask for something that never ends. */
export const LEFT_OUT = new Set(["DELETE /api/session", "DELETE /api/own/sessions"]);
