import {
  type InvitationView,
  type NewPerson,
  type PersonChange,
  type PersonView,
  type SessionView,
  type TimeKeyView,
} from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type Kysely, type Selectable } from "kysely";
import { createHash, randomInt } from "node:crypto";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound, ProblemException } from "../http/problems";
import { type Actor } from "./acting";
import { Identify } from "./identify";
import { admitPassword, admitPin, Passwords } from "./passwords";
import { Sessions } from "./sessions";
import { newTimeKey, stepOfCode, timeKeyPicture } from "./timeCodes";

type Row = Selectable<Schema["people"]>;

const INVITED_DAYS = 7;
/** Letters and digits that nobody mistakes for another. */
const LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";
const FIRST = "first-owner";

/** A code to be read out and typed: three groups of four, sixty bits. */
export const newCode = (): string =>
  Array.from({ length: 3 }, () =>
    Array.from({ length: 4 }, () => LETTERS[randomInt(LETTERS.length)]).join(""),
  ).join("-");

const plain = (code: string): string => code.toUpperCase().replace(/[^A-Z0-9]/g, "");
const codeKey = (code: string): string => createHash("sha256").update(plain(code)).digest("hex");

/** The shop's people: who there is, and what each has to come in by. */
@Injectable()
export class PeopleService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(Passwords) private readonly passwords: Passwords,
    @Inject(Sessions) private readonly sessions: Sessions,
    @Inject(Identify) private readonly identify: Identify,
  ) {}

  async list(): Promise<PersonView[]> {
    return this.views(this.database, null);
  }

  async row(id: string): Promise<Row> {
    const row = await this.database
      .selectFrom("people")
      .selectAll()
      .where("id", "=", id)
      .where("leftAt", "is", null)
      .executeTakeFirst();
    if (!row) throw notFound("person", id);
    return row;
  }

  async named(name: string): Promise<Row | undefined> {
    return this.database
      .selectFrom("people")
      .selectAll()
      .where(sql`fold(name)`, "=", sql<string>`fold(${name.trim()})`)
      .where("leftAt", "is", null)
      .executeTakeFirst();
  }

  /** The code by which the first person becomes the owner; null where there is somebody. */
  async firstCode(): Promise<string | null> {
    const anybody = await this.database.selectFrom("people").select("id").limit(1).executeTakeFirst();
    return anybody ? null : this.sessions.secret(FIRST, newCode);
  }

  /** The first person of all. Of two who try at once one comes first. */
  async first(code: string, name: string, password: string): Promise<string> {
    await admitPassword(password, name);
    const kept = await this.passwords.hash(password);
    return this.database.transaction().execute(async (tx) => {
      await sql`lock table people in exclusive mode`.execute(tx);
      if (await tx.selectFrom("people").select("id").limit(1).executeTakeFirst())
        throw new ProblemException(409, "Not now", "This shop has its people already. Sign in.");
      const known = await tx
        .selectFrom("secrets")
        .select("value")
        .where("name", "=", FIRST)
        .executeTakeFirst();
      if (!known || codeKey(known.value) !== codeKey(code))
        throw new ProblemException(
          403,
          "Not the code",
          "This is not the code that was printed where the program was started.",
        );
      const { id } = await tx
        .insertInto("people")
        .values({ name, role: "owner", password: kept })
        .returning("id")
        .executeTakeFirstOrThrow();
      await tx.deleteFrom("secrets").where("name", "=", FIRST).execute();
      return String(id);
    });
  }

  async invite({ name, role }: NewPerson): Promise<InvitationView> {
    const id = await this.unlessNamed(name, async () => {
      const made = await this.database
        .insertInto("people")
        .values({ name, role })
        .returning("id")
        .executeTakeFirstOrThrow();
      return String(made.id);
    });
    return this.invitation(id);
  }

  /** A new way in: what opened before opens no more. The second factor, which may be lost as well, is taken off. */
  async invitation(id: string): Promise<InvitationView> {
    await this.row(id);
    const code = newCode();
    const endsAt = new Date(Date.now() + INVITED_DAYS * 86400_000);
    await this.database.transaction().execute(async (tx) => {
      await tx.deleteFrom("invitations").where("personId", "=", id).execute();
      await tx
        .insertInto("invitations")
        .values({ codeSha256: codeKey(code), personId: id, endsAt })
        .execute();
    });
    return { person: await this.view(id), code, endsAt: endsAt.toISOString() };
  }

  /** Who a code is for. @throws ProblemException where it opens nothing, or no more */
  async invited(code: string): Promise<{ id: string; name: string }> {
    const found = await this.database
      .selectFrom("invitations as i")
      .innerJoin("people as p", "p.id", "i.personId")
      .select(["p.id", "p.name"])
      .where("i.codeSha256", "=", codeKey(code))
      .where("i.endsAt", ">", new Date())
      .where("p.leftAt", "is", null)
      .executeTakeFirst();
    if (!found)
      throw new ProblemException(
        404,
        "Not found",
        "This way in is not open any more: it was used, or is older than seven days. Ask the owner for another.",
      );
    return { id: String(found.id), name: found.name };
  }

  /** Sets the password of one who came by a code, which is used up by it. Whoever was signed in as that person is out. */
  async join(code: string, password: string): Promise<string> {
    const { id, name } = await this.invited(code);
    await admitPassword(password, name);
    const kept = await this.passwords.hash(password);
    await this.database.transaction().execute(async (tx) => {
      const used = await tx
        .deleteFrom("invitations")
        .where("codeSha256", "=", codeKey(code))
        .executeTakeFirst();
      if (used.numDeletedRows === 0n)
        throw new ProblemException(404, "Not found", "This way in was used a moment ago.");
      await tx
        .updateTable("people")
        .set({ password: kept, timeKey: null, pin: null })
        .where("id", "=", id)
        .execute();
    });
    await this.signOut(id);
    return id;
  }

  async change(id: string, { name, role }: PersonChange): Promise<PersonView> {
    await this.unlessNamed(name ?? "", () =>
      this.keepingAnOwner(id, async (tx) => {
        const set = { ...(name === undefined ? {} : { name }), ...(role === undefined ? {} : { role }) };
        if (Object.keys(set).length > 0)
          await tx.updateTable("people").set(set).where("id", "=", id).execute();
      }),
    );
    this.identify.forget({ personId: id });
    return this.view(id);
  }

  /** Somebody leaves the shop: out everywhere, and what was done stays under the name. */
  async leave(id: string): Promise<PersonView> {
    const before = await this.view(id);
    await this.keepingAnOwner(id, async (tx) => {
      await tx
        .updateTable("people")
        .set({ leftAt: new Date(), password: null, pin: null, timeKey: null })
        .where("id", "=", id)
        .execute();
      await tx.deleteFrom("invitations").where("personId", "=", id).execute();
    });
    await this.signOut(id);
    return before;
  }

  async signOut(id: string): Promise<void> {
    await this.sessions.endAll(id);
    this.identify.forget({ personId: id });
  }

  /** @throws ProblemException where it is not the person's password */
  async confirm(id: string, password: string): Promise<Row> {
    const row = await this.row(id);
    if (row.password === null)
      throw new ProblemException(409, "Not now", `${row.name} has no password: the demo needs none.`);
    if (!(await this.passwords.isRight(row.password, password)))
      throw new ProblemException(403, "Not the password", "This is not your password.");
    return row;
  }

  async setPassword(id: string, old: string, password: string): Promise<void> {
    const { name } = await this.confirm(id, old);
    await admitPassword(password, name);
    await this.database
      .updateTable("people")
      .set({ password: await this.passwords.hash(password) })
      .where("id", "=", id)
      .execute();
    await this.signOut(id);
  }

  async setPin(id: string, password: string, pin: string | undefined): Promise<void> {
    await this.confirm(id, password);
    if (pin !== undefined) admitPin(pin);
    const kept = pin === undefined ? null : await this.passwords.hash(pin);
    await this.database.updateTable("people").set({ pin: kept }).where("id", "=", id).execute();
  }

  /** A key to be set up: it counts from when a code of it was confirmed. */
  async timeKey(id: string, password: string): Promise<TimeKeyView> {
    const { name } = await this.confirm(id, password);
    const key = newTimeKey();
    await this.database
      .insertInto("secrets")
      .values({ name: wantedKey(id), value: key })
      .onConflict((c) => c.column("name").doUpdateSet({ value: key }))
      .execute();
    return { key, picture: await timeKeyPicture(key, name) };
  }

  async confirmTimeKey(id: string, code: string): Promise<void> {
    const wanted = await this.database
      .selectFrom("secrets")
      .select("value")
      .where("name", "=", wantedKey(id))
      .executeTakeFirst();
    if (!wanted) throw new ProblemException(409, "Not now", "There is no key to confirm. Begin again.");
    const step = stepOfCode(wanted.value, code);
    if (step === null)
      throw new ProblemException(
        403,
        "Not the code",
        "This is not the code of now. Look whether the phone's clock is right.",
      );
    await this.database.transaction().execute(async (tx) => {
      await tx
        .updateTable("people")
        .set({ timeKey: wanted.value, timeStep: step })
        .where("id", "=", id)
        .execute();
      await tx.deleteFrom("secrets").where("name", "=", wantedKey(id)).execute();
    });
  }

  async dropTimeKey(id: string, password: string): Promise<void> {
    await this.confirm(id, password);
    await this.database.updateTable("people").set({ timeKey: null }).where("id", "=", id).execute();
  }

  /** Whether a code is the one of now; each is taken once. */
  async takesCode(row: Row, code: string): Promise<boolean> {
    const step = row.timeKey === null ? null : stepOfCode(row.timeKey, code);
    if (step === null) return false;
    const { numUpdatedRows } = await this.database
      .updateTable("people")
      .set({ timeStep: step })
      .where("id", "=", row.id)
      .where("timeStep", "<", step)
      .executeTakeFirst();
    return numUpdatedRows === 1n;
  }

  async view(id: string): Promise<PersonView> {
    const [view] = await this.views(this.database, id);
    if (!view) throw notFound("person", id);
    return view;
  }

  /** What a browser is told of who is at it. */
  async session(actor: Actor | null): Promise<SessionView> {
    const person = actor?.personId ? await this.row(actor.personId) : null;
    return {
      person: person && {
        ...{ id: String(person.id), name: person.name, role: person.role },
        ...{ hasPin: person.pin !== null, secondFactor: person.timeKey !== null },
      },
      rights: actor?.rights ?? [],
      by: actor?.by ?? null,
      first: !actor && (await this.firstCode()) !== null,
    };
  }

  private async views(db: Kysely<Schema>, id: string | null): Promise<PersonView[]> {
    const { rows } = await sql<Row & { sessions: number }>`
      select p.*, (select count(*)::int from sessions s where s.sess->>'personId' = p.id::text and s.expire > now()) as sessions
      from people p where p.left_at is null ${id === null ? sql`` : sql`and p.id = ${id}`}
      order by p.created_at, p.id`.execute(db);
    return rows.map((row) => ({
      ...{ id: String(row.id), name: row.name, role: row.role, sessions: row.sessions },
      ...{ joined: row.password !== null, hasPin: row.pin !== null, secondFactor: row.timeKey !== null },
      createdAt: row.createdAt.toISOString(),
    }));
  }

  /** The last owner neither leaves nor becomes something else, whoever else is changed at the same time. */
  private async keepingAnOwner(id: string, act: (tx: Kysely<Schema>) => Promise<void>): Promise<void> {
    await this.database.transaction().execute(async (tx) => {
      await sql`lock table people in exclusive mode`.execute(tx);
      const before = await tx
        .selectFrom("people")
        .select("role")
        .where("id", "=", id)
        .where("leftAt", "is", null)
        .executeTakeFirst();
      if (!before) throw notFound("person", id);
      await act(tx);
      const owner = await tx
        .selectFrom("people")
        .select("id")
        .where("role", "=", "owner")
        .where("leftAt", "is", null)
        .limit(1)
        .executeTakeFirst();
      if (!owner)
        throw new ProblemException(409, "Not now", "This is the last owner. Make another one first.");
    });
  }

  private async unlessNamed<T>(name: string, act: () => Promise<T>): Promise<T> {
    try {
      return await act();
    } catch (error) {
      if ((error as { code?: string }).code !== "23505") throw error;
      throw new ProblemException(409, "Taken", `There is somebody called ${name} already.`);
    }
  }
}

const wantedKey = (personId: string): string => `time-key-${personId}`;
