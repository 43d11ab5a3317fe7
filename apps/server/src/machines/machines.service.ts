import { IN_QUEUE, type SaveMachine } from "@hardline/contract";
import { readMachine, USUAL_MACHINES, type Machine } from "@hardline/core/machine/machine";
import { Inject, Injectable } from "@nestjs/common";
import { type Selectable } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound, ProblemException } from "../http/problems";
import { Settings } from "../settings";
import { MachineReach } from "./reach";

/** A machine, and where it listens. */
export interface KnownMachine {
  readonly machine: Machine;
  readonly version: number;
  readonly host: string;
  readonly port: number;
  readonly floor: number | null;
}

/** The shop's machines. */
@Injectable()
export class MachinesService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(Settings) private readonly settings: Settings,
    @Inject(MachineReach) private readonly reach: MachineReach,
  ) {}

  async list(): Promise<KnownMachine[]> {
    const rows = await this.database
      .selectFrom("machines")
      .selectAll()
      .where("removedAt", "is", null)
      .orderBy("createdAt")
      .orderBy("key")
      .execute();
    return rows.map((row) => this.known(row));
  }

  async get(key: string): Promise<KnownMachine> {
    const known = await this.find(key);
    if (!known) throw notFound("machine", key);
    return known;
  }

  /** @returns nothing where there is none, or it was removed */
  async find(key: string): Promise<KnownMachine | undefined> {
    const row = await this.database
      .selectFrom("machines")
      .selectAll()
      .where("key", "=", key)
      .where("removedAt", "is", null)
      .executeTakeFirst();
    return row && this.known(row);
  }

  /** A new one when there is none of its key. One that was removed is there again. */
  async save({ machine, version, host, port, floor }: SaveMachine): Promise<KnownMachine> {
    await this.reach.addressOf(host).catch((error: Error) => {
      throw new ProblemException(400, "Not valid", `host: ${error.message}`);
    });
    const body = JSON.stringify(readMachine(machine));
    const values = { body, host, port, floor: floor ?? null, removedAt: null };
    const row = await this.database
      .insertInto("machines")
      .values({ key: machine.key, ...values })
      .onConflict((c) =>
        c
          .column("key")
          .doUpdateSet((e) => ({ ...values, version: e("machines.version", "+", 1) }))
          .where((e) => e.or([e("machines.version", "=", version), e("machines.removedAt", "is not", null)])),
      )
      .returningAll()
      .executeTakeFirst();
    if (row) return this.known(row);
    const current = await this.get(machine.key);
    throw new ProblemException(
      409,
      "Changed meanwhile",
      `Somebody else changed ${current.machine.name} since it was opened here.`,
      { current },
    );
  }

  /** One at which runs wait, or are at work, stays. Its runs that have ended stay too. */
  async remove(key: string): Promise<void> {
    await this.database.transaction().execute(async (tx) => {
      const machine = await tx
        .selectFrom("machines")
        .select("body")
        .where("key", "=", key)
        .where("removedAt", "is", null)
        .forUpdate()
        .executeTakeFirst();
      if (!machine) throw notFound("machine", key);
      const { count } = await tx
        .selectFrom("runs")
        .select((e) => e.fn.countAll<number>().as("count"))
        .where("machineKey", "=", key)
        .where("state", "in", [...IN_QUEUE])
        .executeTakeFirstOrThrow();
      if (count > 0)
        throw new ProblemException(
          409,
          "In use",
          `${count} ${count === 1 ? "run waits or is" : "runs wait or are"} at ${machine.body.name}, and it stays.`,
        );
      await tx.updateTable("machines").set({ removedAt: new Date() }).where("key", "=", key).execute();
    });
  }

  /** The stand-ins beside the program listen one after another. */
  private known({ key, body, version, host, port, floor }: Selectable<Schema["machines"]>): KnownMachine {
    const beside = USUAL_MACHINES.findIndex((m) => m.key === key);
    const { machinePort } = this.settings;
    return {
      ...{ machine: body, version, host },
      port: port ?? machinePort + 2 * beside,
      floor: port === null ? machinePort + 2 * beside + 1 : floor,
    };
  }
}
