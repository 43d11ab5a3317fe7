import { sql, type Kysely } from "kysely";

/**
 * An artwork may be a page of a file: it is known by the file's fingerprint and what of it is taken, and the file has a
 * column of its own. What names a blob is changed with it (`leftOver.ts`).
 */
export async function pages(db: Kysely<unknown>): Promise<void> {
  await sql`
    alter table artworks drop constraint artworks_sha256_fkey;
    alter table artworks
      add column file_sha256 text references blobs,
      add column page int not null default 1 check (page >= 1),
      add column box text not null default 'crop' check (box in ('crop', 'trim', 'bleed')),
      add column pages int not null default 1 check (pages >= page),
      add column boxes jsonb not null default '["crop"]',
      add column width_mm double precision;
    update artworks set file_sha256 = sha256;
    alter table artworks alter column file_sha256 set not null;
    create index artworks_file on artworks (file_sha256);
    create function leave_file() returns trigger language plpgsql as $$
    begin
      perform leave_over('blob', array[old.file_sha256]);
      return null;
    end $$;
    create trigger left_over_file after update of file_sha256 or delete on artworks
      for each row execute function leave_file();
  `.execute(db);
}
