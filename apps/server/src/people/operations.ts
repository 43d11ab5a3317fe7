import { type Right } from "@hardline/contract";

/** What somebody must be allowed to do for an operation; "open": anybody, unknown or not. */
export interface Operation {
  readonly needs: Right | "open";
  /** What the journal says was done; left out where nothing is, or where it is kept otherwise. */
  readonly does?: string;
  /** The journal has its number alone: what it was called is to be known no more. */
  readonly namesNobody?: true;
}

const open: Operation = { needs: "open" };
const see: Operation = { needs: "see" };
const own: Operation = { needs: "own" };
const make = (does?: string): Operation => ({ needs: "make", does });
const run = (does?: string): Operation => ({ needs: "run", does });
const shop = (does: string): Operation => ({ needs: "shop", does });
const people = (does: string): Operation => ({ needs: "people", does });

/**
 * Every operation of the interface, by method and address: the one table of rights. What is not in it is refused, and a
 * test compares it with the interface's own description.
 */
export const OPERATIONS: Readonly<Record<string, Operation>> = {
  "GET /api/health": open,
  "GET /api/health/delays": see,
  "GET /api/changes": see,

  "GET /api/session": open,
  "POST /api/session": open,
  "DELETE /api/session": open,
  "POST /api/session/person": see,
  "POST /api/first-owner": open,
  "GET /api/invitations/{code}": open,
  "POST /api/invitations/{code}": open,
  "PUT /api/own/password": own,
  "PUT /api/own/pin": own,
  "POST /api/own/second-factor": own,
  "PUT /api/own/second-factor": own,
  "DELETE /api/own/second-factor": own,
  "DELETE /api/own/sessions": own,

  "GET /api/people": see,
  "POST /api/people": people("invited"),
  "PATCH /api/people/{id}": people("changed the person"),
  "DELETE /api/people/{id}": people("took from the shop's people"),
  "POST /api/people/{id}/invitation": people("made a way to a new password for"),
  "DELETE /api/people/{id}/sessions": people("signed out everywhere"),
  "GET /api/tokens": people(""),
  "POST /api/tokens": people("made a token for the program"),
  "DELETE /api/tokens/{id}": people("took back the token of"),
  "GET /api/journal": see,

  "POST /api/artworks": make(),
  "GET /api/artworks/{id}/original": see,
  "GET /api/artworks/{id}/pages": see,
  "GET /api/artworks/{id}/paths": see,
  "POST /api/artworks/{id}/pages": make(),
  "GET /api/artworks/{id}/pages/{page}": see,
  "GET /api/artworks/{id}/pixels": see,
  "GET /api/artworks/{id}/thumbnail": see,
  "GET /api/arrivals/{id}": see,
  "GET /api/arrivals/{id}/events": see,

  "GET /api/tickets": see,
  "GET /api/tickets/counts": see,
  "GET /api/tickets/{id}": see,
  "POST /api/tickets": make("began"),
  "PATCH /api/tickets/{id}": make("changed what is written on"),
  "POST /api/tickets/{id}/archive": make("archived"),
  "POST /api/tickets/{id}/restore": make("brought back"),
  "POST /api/tickets/{id}/routes": make("added a route to"),
  "GET /api/routes/{id}": see,
  "PUT /api/routes/{id}": make(),
  "POST /api/routes/{id}/undo": make(),
  "POST /api/routes/{id}/redo": make(),
  "PUT /api/routes/{id}/findings": make(),
  "GET /api/routes/{id}/thumbnail": see,
  "GET /api/routes/{id}/revisions": see,
  "GET /api/routes/{id}/revisions/{revision}": see,
  "GET /api/routes/{id}/revisions/{revision}/thumbnail": see,
  "PUT /api/routes/{id}/revisions/{revision}/name": make(),
  "POST /api/routes/{id}/revisions/{revision}/bring-back": make("brought back a revision of"),
  "POST /api/routes/{id}/revisions/{revision}/approvals": make("wrote down a yes to"),
  "GET /api/tickets/{id}/watch": see,
  "GET /api/tickets/{id}/comments": see,
  "POST /api/tickets/{id}/comments": run("commented on"),
  "POST /api/comments/{id}/done": run("saw to a comment on"),
  "DELETE /api/comments/{id}/done": run(),
  "DELETE /api/comments/{id}": run(),
  "GET /api/tickets/{id}/again": see,
  "POST /api/tickets/{id}/again": make("ordered again"),
  "GET /api/customers": see,
  "POST /api/customers": make("added the customer"),
  "GET /api/customers/{id}": see,
  "PATCH /api/customers/{id}": make("changed the customer"),
  "GET /api/customers/{id}/export": people(""),
  "DELETE /api/customers/{id}": {
    ...people("removed for good the data of the customer with the number"),
    namesNobody: true,
  },
  "POST /api/routes/{id}/renders": make("handed over"),
  "GET /api/routes/{id}/renders": see,
  "POST /api/routes/{id}/piece": make(),
  "GET /api/renders/{id}": see,
  "GET /api/renders/{id}/events": see,
  "GET /api/renders/{id}/files/{name}": see,
  "GET /api/renders/{id}/zip": see,
  "GET /api/tickets/{id}/strips": see,
  "POST /api/tickets/{id}/strips": make("kept a test strip for"),
  "DELETE /api/strips/{id}": make("removed a test strip"),
  "GET /api/strips/{id}/picture": see,

  "GET /api/house-routes": see,
  "POST /api/house-routes": make("kept the house route"),
  "DELETE /api/house-routes/{id}": make("removed a house route"),
  "GET /api/fonts": see,
  "POST /api/fonts": make("added the font"),
  "DELETE /api/fonts/{key}": make("retired a font"),
  "GET /api/fonts/{key}/file": see,
  "POST /api/photos": make(),
  "GET /api/photos/{key}": see,
  "GET /api/things": see,
  "POST /api/things": make("kept the thing"),
  "DELETE /api/things/{id}": make("removed a thing"),
  "GET /api/places": see,
  "POST /api/places": make("kept the place"),
  "DELETE /api/places/{id}": make("removed a place"),

  "GET /api/sheets": see,
  "POST /api/sheets": make("began the sheet"),
  "GET /api/sheets/{id}": see,
  "PUT /api/sheets/{id}": make(),
  "DELETE /api/sheets/{id}": make("removed a sheet"),
  "POST /api/sheets/{id}/renders": make("had the files made of a sheet"),
  "GET /api/batches": see,
  "POST /api/batches": make("began the batch"),
  "GET /api/batches/{id}": see,
  "GET /api/batches/{id}/items": see,
  "POST /api/batches/{id}/stop": make("stopped the batch"),
  "POST /api/batches/{id}/resume": make("went on with the batch"),
  "GET /api/batches/{id}/zip": see,

  "GET /api/machines": see,
  "PUT /api/machines": shop("changed the machine"),
  "DELETE /api/machines/{key}": shop("removed the machine"),
  "POST /api/runs": make("had a program made:"),
  "GET /api/runs": see,
  "GET /api/runs/{id}": see,
  "GET /api/runs/{id}/events": see,
  "GET /api/runs/{id}/program": see,
  "GET /api/runs/{id}/photo": see,
  "GET /api/runs/{id}/burned": see,
  "GET /api/tickets/{id}/runs": see,
  "GET /api/sheets/{id}/runs": see,
  "POST /api/runs/{id}/queue": run("sent to the machine"),
  "POST /api/runs/{id}/pause": run("paused"),
  "POST /api/runs/{id}/resume": run("went on with"),
  "POST /api/runs/{id}/stop": run("stopped"),
  "POST /api/runs/{id}/put-away": run("put away"),
  "POST /api/runs/{id}/again": run("began a pass again:"),
  "POST /api/runs/{id}/place": run("moved in the queue"),

  "GET /api/materials": see,
  "POST /api/materials": shop("added the material"),
  "PUT /api/materials/{key}": shop("changed the material"),
  "DELETE /api/materials/{key}": shop("removed the material"),
  "POST /api/materials/{key}/wedge": make("began a step wedge"),
  "GET /api/materials/{key}/curves": see,
  "POST /api/materials/{key}/curves": shop("measured a step wedge of"),
  "POST /api/materials/{key}/curves/photo/{id}": shop("photographed a step wedge of"),
};

/** The operation of a request to an address as its handler writes it: ":id" stands for what is given. */
export const operationName = (method: string, template: string): string =>
  `${method === "HEAD" ? "GET" : method} ${template.replace(/:(\w+)/g, "{$1}").replace(/\/$/, "")}`;

const OPEN = Object.entries(OPERATIONS)
  .filter(([, { needs }]) => needs === "open")
  .map(([name]) => new RegExp(`^${name.replace(/\{\w+\}/g, "[^/]+")}/?$`));

/** Whether anybody may ask for it. */
export const isOpen = (method: string, path: string): boolean =>
  OPEN.some((operation) => operation.test(`${method === "HEAD" ? "GET" : method} ${path}`));
