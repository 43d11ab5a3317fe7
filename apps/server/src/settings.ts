import { Injectable } from "@nestjs/common";
import { join } from "node:path";

/** `seed`: fills the database, and does nothing else. */
export type Role = "both" | "server" | "worker" | "seed";

/** What the program is told from outside. */
@Injectable()
export class Settings {
  readonly databaseUrl = process.env.DATABASE_URL ?? "postgres://hardline@127.0.0.1:5432/hardline";
  readonly port = Number(process.env.PORT ?? 4280);
  /** The first of the ports at which the stand-ins beside the program listen: two for each, programs and shop floor. */
  readonly machinePort = Number(process.env.HARDLINE_MACHINE_PORT ?? this.port + 20);
  readonly host = process.env.HOST ?? "127.0.0.1";
  readonly role = roleOf(process.argv);
  /** A running render whose worker gives no sign of life for this long is taken again. */
  readonly leaseSeconds = Number(process.env.HARDLINE_LEASE_SECONDS ?? 10);
  /** What takes longer to draw is refused. */
  readonly drawSeconds = Number(process.env.HARDLINE_DRAW_SECONDS ?? 20);
  /** What nothing names any more is removed when it is so old. */
  readonly collectAfterSeconds = Number(process.env.HARDLINE_COLLECT_AFTER_SECONDS ?? 21600);
  /** Pictures of revisions that do not stand are kept for so many days. */
  readonly picturesDays = Number(process.env.HARDLINE_PICTURES_DAYS ?? 90);
  /** Names by which the program may be called besides loopback and bare addresses, with commas between. */
  readonly hosts = (process.env.HARDLINE_HOSTS ?? "").split(",").filter(Boolean);
  /** The demo: its operator is signed in by himself, on loopback alone. */
  readonly demo = process.env.HARDLINE_DEMO === "1";
  /** Addresses of proxies that stand before the program and whose word on who asks is taken, with commas between. */
  readonly proxies = (process.env.HARDLINE_PROXIES ?? "")
    .split(",")
    .map((p) => p.trim())
    .filter(Boolean);
  /** Networks in which machines may be, with commas between: loopback alone, unless it is said. */
  readonly machineNetworks = (process.env.HARDLINE_MACHINE_NETWORKS ?? "127.0.0.0/8,::1/128")
    .split(",")
    .map((n) => n.trim())
    .filter(Boolean);
  readonly webFolder = process.env.HARDLINE_WEB ?? join(__dirname, "../../web/dist");
}

function roleOf(args: readonly string[]): Role {
  const given = args.find((a) => a.startsWith("--role="))?.slice(7) ?? "both";
  if (given !== "both" && given !== "server" && given !== "worker" && given !== "seed") {
    throw new Error(`--role is ${given}; allowed: both, server, worker`);
  }
  return given;
}
