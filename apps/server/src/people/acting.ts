import { type Right, type Role } from "@hardline/contract";
import { AsyncLocalStorage } from "node:async_hooks";
import { type Doer } from "../database/schema";

/** Who asks, and what that one may do. */
export interface Actor extends Doer {
  readonly name: string;
  readonly role: Role | null;
  readonly rights: readonly Right[];
  readonly by: "password" | "pin" | "demo" | "token";
  /** Of the session that it came by. */
  readonly sid: string | null;
}

const acting = new AsyncLocalStorage<Doer>();

/** Does something in somebody's name: whatever it writes down says so. */
export const actingAs = <T>(doer: Doer, act: () => T): T => acting.run(doer, act);

/** Who does what is done now, to be written beside it. */
export function doer(): Doer {
  const { personId, tokenId } = acting.getStore() ?? { personId: null, tokenId: null };
  return { personId, tokenId };
}

declare module "express-serve-static-core" {
  interface Request {
    /** Null where nobody is known. */
    actor?: Actor | null;
  }
}
declare module "express-session" {
  interface SessionData {
    personId: string;
    by: "password" | "pin";
  }
}
