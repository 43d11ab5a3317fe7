/**
 * What somebody may do: see what the shop has; make tickets, routes and whatever comes of them; run machines; change what
 * the shop works with (machines, materials); people; one's own password and PIN.
 */
export const RIGHTS = ["see", "make", "run", "shop", "people", "own"] as const;
export type Right = (typeof RIGHTS)[number];

export const ROLES = ["owner", "operator", "floor"] as const;
export type Role = (typeof ROLES)[number];

/** What each role may do. */
export const ROLE_RIGHTS: Readonly<Record<Role, readonly Right[]>> = {
  owner: RIGHTS,
  operator: ["see", "make", "run", "own"],
  floor: ["see", "run", "own"],
};

/** Each role, in words. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  owner: "everything: people, machines, materials, tickets, runs",
  operator: "tickets, routes and runs",
  floor: "sees tickets, runs what is ready",
};

/** What a program may be allowed by its token. People are never a program's affair. */
export const SCOPES = ["see", "make", "run", "shop"] as const satisfies readonly Right[];
export type Scope = (typeof SCOPES)[number];

/** Who came in by a PIN does not do what an owner's password is for. */
export const PIN_RIGHTS: readonly Right[] = ["see", "make", "run"];

/** A password has so many letters. */
export const [LEAST_PASSWORD, MOST_PASSWORD] = [10, 200] as const;
export const [LEAST_PIN, MOST_PIN] = [4, 8] as const;
