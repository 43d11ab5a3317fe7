import { type ChangePerson, type SessionView, type SignIn } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { type Request } from "express";
import { ProblemException } from "../http/problems";
import { log } from "../log/log";
import { Identify } from "./identify";
import { Passwords } from "./passwords";
import { PeopleService } from "./people.service";
import { Sessions } from "./sessions";
import { MOST_FROM_ADDRESS, MOST_OF_ACCOUNT, MOST_OF_PIN, networkOf, Tries } from "./tries";

const wrong = (): ProblemException =>
  new ProblemException(401, "Not signed in", "The name or the password is not right.");

/** Coming in and going out. */
@Injectable()
export class SessionService {
  constructor(
    @Inject(PeopleService) private readonly people: PeopleService,
    @Inject(Passwords) private readonly passwords: Passwords,
    @Inject(Sessions) private readonly sessions: Sessions,
    @Inject(Tries) private readonly tries: Tries,
    @Inject(Identify) private readonly identify: Identify,
  ) {}

  /** @throws ProblemException 401, in the same words for a name that nobody has and a password that is not right */
  async signIn(request: Request, { name, password, code }: SignIn): Promise<SessionView> {
    const account = `account ${name.trim().toLowerCase()}`;
    await this.countTry(request, account);
    const person = await this.people.named(name);
    const right = await this.passwords.isRight(person?.password ?? null, password);
    if (!person || !right) {
      log.warn({ address: request.ip }, "a sign-in that was refused");
      throw wrong();
    }
    if (person.timeKey !== null) {
      if (code === undefined)
        throw new ProblemException(401, "Second factor", "Type the six digits that your phone shows now.");
      if (!(await this.people.takesCode(person, code)))
        throw new ProblemException(
          401,
          "Second factor",
          "These six digits are not those of now, or were used already. Wait for the next.",
        );
    }
    await this.tries.forgive(account);
    return this.comeIn(request, String(person.id), "password");
  }

  /** Another person at a browser where somebody is signed in. */
  async change(request: Request, { personId, pin }: ChangePerson): Promise<SessionView> {
    if (request.actor?.by === "token")
      throw new ProblemException(403, "Not allowed", "A program is no browser that people share.");
    const account = `pin ${personId}`;
    await this.tries.count(`${account} at ${request.actor?.sid ?? "the demo"}`, MOST_OF_PIN);
    await this.countTry(request, account, MOST_OF_PIN * 2);
    const person = await this.people.row(personId).catch(() => null);
    if (!(await this.passwords.isRight(person?.pin ?? null, pin)) || !person)
      throw new ProblemException(403, "Not the PIN", "This is not that person's PIN.");
    await this.tries.forgive(account);
    return this.comeIn(request, personId, "pin");
  }

  async first(request: Request, code: string, name: string, password: string): Promise<SessionView> {
    await this.countTry(request, "first owner");
    return this.comeIn(request, await this.people.first(code, name, password), "password");
  }

  async invited(request: Request, code: string): Promise<{ name: string }> {
    await this.countTry(request, null);
    const { name } = await this.people.invited(code);
    return { name };
  }

  async join(request: Request, code: string, password: string): Promise<SessionView> {
    await this.countTry(request, null);
    return this.comeIn(request, await this.people.join(code, password), "password");
  }

  async signOut(request: Request): Promise<void> {
    if (request.actor?.sid) this.identify.forget({ sid: request.actor.sid });
    await this.sessions.end(request);
  }

  /** A try at an account, and one from an address. */
  async countTry(request: Request, account: string | null, most: number = MOST_OF_ACCOUNT): Promise<void> {
    await this.tries.count(`address ${networkOf(request.ip)}`, MOST_FROM_ADDRESS);
    if (account !== null) await this.tries.count(account, most);
  }

  private async comeIn(request: Request, personId: string, by: "password" | "pin"): Promise<SessionView> {
    // Whoever was here before is here no more.
    if (request.actor?.sid) this.identify.forget({ sid: request.actor.sid });
    await this.sessions.begin(request, personId, by);
    await this.tries.forgive(`address ${networkOf(request.ip)}`);
    return this.people.session(await this.identify.ofSession(personId, by, request.sessionID));
  }
}
