import { type CanActivate, type ExecutionContext, Injectable } from "@nestjs/common";
import { type Request } from "express";
import { ProblemException } from "../http/problems";
import { OPERATIONS, operationName } from "./operations";

/** The operation that a request came to, by the address as its handler writes it. */
export const operationOf = ({ method, route }: Request): string =>
  operationName(method, (route as { path: string }).path);

/** Lets through what whoever asks may do by the one table of rights; what is not in it nobody may. */
@Injectable()
export class RightsGuard implements CanActivate {
  canActivate(context: ExecutionContext): boolean {
    const request = context.switchToHttp().getRequest<Request>();
    const needs = OPERATIONS[operationOf(request)]?.needs;
    if (needs === "open") return true;
    const { actor } = request;
    if (!actor) throw new ProblemException(401, "Not signed in", "Sign in first.");
    if (needs === undefined || !actor.rights.includes(needs) || (needs === "own" && !actor.personId))
      throw new ProblemException(
        403,
        "Not allowed",
        actor.by === "pin" && (needs === "people" || needs === "shop" || needs === "own")
          ? "Who came in by a PIN may not do this: sign in with your password."
          : `${actor.name} may not do this: ${actor.role ? `the role is ${actor.role}` : "the token has no such scope"}.`,
      );
    return true;
  }
}
