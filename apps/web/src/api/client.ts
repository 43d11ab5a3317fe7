import { type Problem } from "@hardline/contract";

/** The server refused, and said why. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
    this.name = "Refusal";
  }
}

/** Nothing came back: the server, or the way to it, is away. */
export class Offline extends Error {
  constructor() {
    super("The server does not answer. Try again in a moment.");
    this.name = "Offline";
  }
}

/** What is done when the server does not know any more who is here. */
let signedOut = (): void => undefined;
export const whenSignedOut = (act: () => void): void => {
  signedOut = act;
};

/** Asks the server and reads JSON. @throws Refusal | Offline */
export async function ask<T>(path: string, init: RequestInit & { json?: unknown } = {}): Promise<T> {
  const { json, ...rest } = init;
  const request: RequestInit =
    json === undefined
      ? rest
      : { ...rest, body: JSON.stringify(json), headers: { "Content-Type": "application/json" } };
  let response: Response;
  try {
    response = await fetch(path, request);
  } catch {
    throw new Offline();
  }
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as T;
  const problem = await response.json().catch(() => null);
  if (!problem?.detail) throw new Offline(); // something in between answered
  if (response.status === 401 && !path.startsWith("/api/session")) signedOut();
  throw new Refusal(problem as Problem);
}
