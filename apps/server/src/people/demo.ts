import { ROLE_RIGHTS } from "@hardline/contract";
import { Inject, Injectable, type OnModuleInit } from "@nestjs/common";
import { type Request } from "express";
import { sql } from "kysely";
import { Database } from "../database/database.module";
import { Settings } from "../settings";
import { type Actor } from "./acting";
import { Passwords } from "./passwords";

/** The people of the demo's shop. Nobody of them has a password: from elsewhere none can sign in until one is given. */
const PEOPLE = [
  { name: "Ida Vell", role: "owner", pin: null },
  { name: "Rowan Tate", role: "operator", pin: "2580" },
  { name: "Bo Marsh", role: "floor", pin: "3690" },
] as const;

/** Where the demo's person is noted, so that the shop of somebody else never has one. */
const NOTED = "demo";

const LOOPBACK = /^(127\.|::1$|::ffff:127\.)/;
const LOOPBACK_NAME = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/i;

/** In the demo its operator is signed in by himself, for whoever sits at the very machine. */
@Injectable()
export class DemoPeople implements OnModuleInit {
  private actor: Actor | null = null;

  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(Settings) private readonly settings: Settings,
    @Inject(Passwords) private readonly passwords: Passwords,
  ) {}

  async onModuleInit(): Promise<void> {
    if (this.settings.demo) this.actor = await this.find();
  }

  /** Who the demo's operator is; null where this is no demo. */
  get operator(): Actor | null {
    return this.actor;
  }

  signedIn(request: Request): Actor | null {
    return this.actor && isLocal(request) ? this.actor : null;
  }

  /** The first that starts makes them, in a shop that has nobody yet. */
  private async find(): Promise<Actor | null> {
    return this.database.transaction().execute(async (tx) => {
      await sql`lock table people in exclusive mode`.execute(tx);
      const noted = await tx
        .selectFrom("secrets")
        .select("value")
        .where("name", "=", NOTED)
        .executeTakeFirst();
      let id = noted?.value;
      if (id === undefined) {
        if (await tx.selectFrom("people").select("id").limit(1).executeTakeFirst()) return null;
        for (const { pin, ...person } of PEOPLE) {
          const made = await tx
            .insertInto("people")
            .values({ ...person, pin: pin && (await this.passwords.hash(pin)) })
            .returning("id")
            .executeTakeFirstOrThrow();
          id ??= String(made.id);
        }
        await tx.insertInto("secrets").values({ name: NOTED, value: id! }).execute();
      }
      const person = await tx
        .selectFrom("people")
        .select(["name", "role"])
        .where("id", "=", id!)
        .where("leftAt", "is", null)
        .executeTakeFirst();
      if (!person) return null;
      return {
        ...{ personId: id!, tokenId: null, ...person },
        ...{ rights: ROLE_RIGHTS[person.role], by: "demo", sid: null },
      };
    });
  }
}

/** It comes from this machine, called by its own name, and nobody passed it on. */
function isLocal({ socket, headers }: Request): boolean {
  const passedOn = ["forwarded", "x-forwarded-for", "x-forwarded-host", "x-real-ip", "via"].some(
    (name) => headers[name] !== undefined,
  );
  return !passedOn && LOOPBACK.test(socket.remoteAddress ?? "") && LOOPBACK_NAME.test(headers.host ?? "");
}
