import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { Readable } from "node:stream";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { type StoredFile } from "../database/schema";
import { zipped, type Entry } from "../renders/zip";
import { readShared } from "../routes/parts";
import { CustomersService } from "./customers.service";

/** All that is kept of a customer, as an archive: one JSON file that says it, artwork as it came, and files that were handed over. */
@Injectable()
export class ExportService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(CustomersService) private readonly customers: CustomersService,
  ) {}

  async archive(id: string): Promise<{ name: string; bytes: Readable }> {
    const record = await this.customers.record(id);
    const { rows: tickets } = await sql<{ id: string; number: number }>`
      select t.id::text, t.number, t.piece, t.customer, t.due, t.pieces, t.note, t.output, t.material, t.material_colour,
        t.state, t.archived_at, t.created_at from tickets t where t.customer_id = ${id} order by t.number`.execute(
      this.database,
    );
    const { rows: comments } = await sql<{ ticketId: string }>`
      select c.ticket_id::text, c.text, c.created_at, c.done_at, p.name as by from comments c
      join tickets t on t.id = c.ticket_id left join people p on p.id = c.person_id
      where t.customer_id = ${id} order by c.id`.execute(this.database);
    const { rows: runs } = await sql<{ ticketId: string }>`
      select r.ticket_id::text, r.name, r.state, r.started_at, r.ended_at from runs r join tickets t on t.id = r.ticket_id
      where t.customer_id = ${id} order by r.id`.execute(this.database);
    const { rows: journal } = await sql<{ at: Date }>`
      select j.at, p.name as by, j.words, j.subject, t.number as ticket from journal j
      left join people p on p.id = j.person_id left join tickets t on t.id = j.ticket_id
      where j.customer_id = ${id} or t.customer_id = ${id} order by j.id`.execute(this.database);
    const text = (value: unknown) => Readable.from([Buffer.from(JSON.stringify(value, null, 2))]);
    const entries: Entry[] = [
      { name: "customer.json", bytes: text({ ...record, tickets, comments, runs, journal }) },
      ...(await this.artworks(id)),
      ...(await this.files(id)),
      ...(await this.stripsAndPrograms(id)),
    ];
    const database = this.database;
    for (const ticket of tickets) {
      // Read when its turn comes: no more than one ticket's history is held.
      const revisions = (async function* (): AsyncGenerator<Buffer> {
        const { rows } = await sql<{
          routeId: string;
          revision: number;
          at: Date;
          by: string | null;
          body: object;
        }>`
          select v.route_id::text, v.revision, v.created_at as at, p.name as by, v.body from routes r
          join route_revisions v on v.route_id = r.id left join people p on p.id = v.person_id
          where r.ticket_id = ${ticket.id} order by v.route_id, v.revision`.execute(database);
        let first = true;
        for (const { body, ...row } of rows) {
          const whole = { ...row, route: await readShared(database, body) };
          yield Buffer.from(`${first ? "[" : ","}\n${JSON.stringify(whole)}`);
          first = false;
        }
        yield Buffer.from(first ? "[]\n" : "\n]\n");
      })();
      entries.push({ name: `${ticket.number}/routes.json`, bytes: revisions });
    }
    return { name: `customer-${id}.zip`, bytes: Readable.from(zipped(entries)) };
  }

  private async artworks(id: string): Promise<Entry[]> {
    const { rows } = await sql<{ id: string; name: string; fileSha256: string }>`
      select distinct a.id::text, a.name, a.file_sha256 from artworks a where
        exists (select from tickets t where t.artwork_id = a.id and t.customer_id = ${id})
        or exists (select from photos p where p.artwork_id = a.id and p.customer_id = ${id})
      order by a.id::text`.execute(this.database);
    return rows.map((a) => ({
      name: `artwork/${a.id}-${plain(a.name)}`,
      bytes: this.blobs.stream(a.fileSha256),
    }));
  }

  private async files(id: string): Promise<Entry[]> {
    const { rows } = await sql<{ id: string; number: number; files: StoredFile[] }>`
      select d.id::text, t.number, d.files from renders d join routes r on r.id = d.route_id join tickets t on t.id = r.ticket_id
      where t.customer_id = ${id} and d.kind = 'hand over' and d.state = 'done' order by d.id`.execute(
      this.database,
    );
    return rows.flatMap(({ id: render, number, files }) =>
      files.map((f) => ({
        name: `${number}/hand-over-${render}/${plain(f.name)}`,
        bytes: this.blobs.stream(f.sha256),
      })),
    );
  }

  private async stripsAndPrograms(id: string): Promise<Entry[]> {
    const { rows } = await sql<{ name: string; sha256: string }>`
      select t.number || '/strips/' || s.id || '.png' as name, s.picture_sha256 as sha256
        from strips s join routes r on r.id = s.route_id join tickets t on t.id = r.ticket_id where t.customer_id = ${id}
      union all
      select t.number || '/programs/run-' || u.id || '.txt', u.program_sha256
        from runs u join tickets t on t.id = u.ticket_id where t.customer_id = ${id} and u.program_sha256 is not null
      order by name`.execute(this.database);
    return rows.map(({ name, sha256 }) => ({ name, bytes: this.blobs.stream(sha256) }));
  }
}

/** A name that stays in its folder. */
const plain = (name: string): string => name.replace(/[^\p{L}\p{N}._ -]+/gu, "_").replace(/^\.+/, "_");
