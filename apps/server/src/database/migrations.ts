import { USUAL_MACHINES } from "@hardline/core/machine/machine";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { sql, type Migration, type MigrationProvider } from "kysely";
import { customers } from "./customers";
import { leftOver } from "./leftOver";
import { pages } from "./pages";
import { people } from "./people";

/** Every change of the tables, in order. A migration that has been released is never altered. */
const MIGRATIONS: Record<string, Migration> = {
  "001-first": {
    async up(db) {
      await sql`
        create table blobs (
          sha256 text primary key check (sha256 ~ '^[0-9a-f]{64}$'),
          bytes bigint not null,
          media_type text not null,
          created_at timestamptz not null default now()
        );
        create table blob_chunks (
          sha256 text not null references blobs on delete cascade,
          seq int not null,
          data bytea not null,
          primary key (sha256, seq)
        );
        -- pictures do not get smaller
        alter table blob_chunks alter column data set storage external;
        create table artworks (
          id bigserial primary key,
          sha256 text not null unique references blobs,
          name text not null,
          kind text not null,
          media_type text not null,
          bytes bigint not null,
          width int not null,
          height int not null,
          vector boolean not null,
          notes jsonb not null,
          pixels_sha256 text references blobs,
          thumbnail_sha256 text not null references blobs,
          created_at timestamptz not null default now()
        );
        create sequence ticket_numbers start 1042;
        create table tickets (
          id bigserial primary key,
          number int not null unique default nextval('ticket_numbers'),
          artwork_id bigint not null references artworks,
          piece text not null,
          customer text not null,
          due date,
          pieces int not null check (pieces >= 1),
          note text not null,
          output text not null,
          material text not null,
          archived_at timestamptz,
          created_at timestamptz not null default now()
        );
        create table routes (
          id bigserial primary key,
          ticket_id bigint not null references tickets,
          version int not null default 1,
          revision int not null,
          created_at timestamptz not null default now()
        );
        create index routes_ticket on routes (ticket_id);
        create table route_revisions (
          route_id bigint not null references routes,
          revision int not null,
          parent int,
          body jsonb not null,
          looks int,
          stops int,
          thumbnail_sha256 text references blobs,
          created_at timestamptz not null default now(),
          primary key (route_id, revision)
        );
        create table renders (
          id bigserial primary key,
          route_id bigint not null references routes,
          revision int not null,
          state text not null,
          progress real not null default 0,
          doing text not null default 'waiting for a worker',
          error text,
          dots_sha256 text,
          files jsonb not null default '[]',
          attempts int not null default 0,
          beat_at timestamptz,
          created_at timestamptz not null default now()
        );
        create index renders_route on renders (route_id);
      `.execute(db);
    },
  },
  "002-readings": {
    async up(db) {
      await sql`
        alter table artworks add column reading jsonb;
        alter table tickets add column material_colour text not null default '';
      `.execute(db);
    },
  },
  "003-shared": {
    async up(db) {
      await sql`
        create table drawings (
          artwork_id bigint not null references artworks,
          width int not null,
          sha256 text not null references blobs,
          used_at timestamptz not null default now(),
          primary key (artwork_id, width)
        );
        create table parts (
          sha256 text primary key,
          body jsonb not null
        );
      `.execute(db);
    },
  },
  "004-house": {
    async up(db) {
      await sql`
        create table materials (
          key text primary key,
          version int not null default 1,
          body jsonb not null,
          created_at timestamptz not null default now()
        );
        create table house_routes (
          id bigserial primary key,
          name text not null unique,
          body jsonb not null,
          created_at timestamptz not null default now()
        );
        create table strips (
          id bigserial primary key,
          route_id bigint not null references routes,
          revision int not null,
          title text not null,
          labels jsonb not null,
          picture_sha256 text not null references blobs,
          created_at timestamptz not null default now()
        );
        create index strips_route on strips (route_id);
      `.execute(db);
      for (const { key, ...body } of USUAL_MATERIALS)
        await sql`insert into materials (key, body) values (${key}, ${JSON.stringify(body)}::jsonb)`.execute(
          db,
        );
    },
  },
  "005-machines": {
    async up(db) {
      await sql`
        create table sheets (
          id bigserial primary key,
          name text not null,
          version int not null default 1,
          body jsonb not null,
          placings jsonb not null default '[]',
          revisions jsonb not null default '{}',
          created_at timestamptz not null default now()
        );
        create table batches (
          id bigserial primary key,
          name text not null,
          route jsonb not null,
          stopped_at timestamptz,
          created_at timestamptz not null default now()
        );
        alter table renders
          alter column route_id drop not null,
          alter column revision drop not null,
          add column kind text not null default 'hand over',
          add column wish jsonb,
          add column outcome jsonb,
          add column batch_id bigint references batches,
          add column ended_at timestamptz;
        create index renders_batch on renders (batch_id, id) where batch_id is not null;
        create index renders_waiting on renders (id) where state = 'waiting';
        create table machines (
          key text primary key,
          version int not null default 1,
          body jsonb not null,
          host text not null,
          -- Null while it is the stand-in beside this program, wherever that listens.
          port int,
          floor int,
          created_at timestamptz not null default now()
        );
        create table runs (
          id bigserial primary key,
          machine_key text not null references machines,
          name text not null,
          ticket_id bigint references tickets,
          route_id bigint references routes,
          revision int,
          sheet_id bigint references sheets,
          sheet int,
          wish jsonb not null,
          state text not null default 'preparing',
          progress real not null default 0,
          place double precision not null default 0,
          plan jsonb,
          program_sha256 text references blobs,
          sent_sha256 text references blobs,
          job jsonb,
          executed int not null default 0,
          seconds real,
          made jsonb,
          eye jsonb,
          burned_sha256 text references blobs,
          error text,
          started_at timestamptz,
          ended_at timestamptz,
          created_at timestamptz not null default now()
        );
        create index runs_machine on runs (machine_key, state, place);
        create index runs_ticket on runs (ticket_id);
        create table curves (
          material_key text not null,
          version int not null,
          body jsonb not null,
          created_at timestamptz not null default now(),
          primary key (material_key, version)
        );
      `.execute(db);
      for (const machine of USUAL_MACHINES)
        await sql`insert into machines (key, body, host) values (${machine.key}, ${JSON.stringify(machine)}::jsonb, '127.0.0.1')`.execute(
          db,
        );
    },
  },
  "006-sheet-checks": {
    async up(db) {
      await sql`alter table sheets add column checks jsonb not null default '[]'`.execute(db);
    },
  },
  "007-wishes": {
    async up(db) {
      await sql`
        alter table runs
          add column wanted text,
          add column wanted_no int not null default 0,
          add column heeded int not null default 0;
        alter table machines add column removed_at timestamptz;
        alter table sheets add column checked_as text;
        create table arrivals (
          id bigserial primary key,
          sha256 text not null references blobs,
          name text not null,
          state text not null default 'waiting',
          progress real not null default 0,
          doing text not null default 'waiting',
          error text,
          artwork_id bigint references artworks,
          attempts int not null default 0,
          beat_at timestamptz not null default now(),
          created_at timestamptz not null default now()
        );
      `.execute(db);
    },
  },
  "008-camera": {
    async up(db) {
      await sql`alter table runs rename column eye to camera`.execute(db);
    },
  },
  "009-changes": {
    async up(db) {
      // Whoever looks at a list hears of every change of it, whoever made it (changes.service.ts).
      await sql`
        create function tell_change() returns trigger language plpgsql as $$
        begin
          for k in 0 .. tg_nargs - 1 loop perform pg_notify('hard_line_changes', tg_argv[k]); end loop;
          return null;
        end $$;
        create trigger told after insert or update or delete on tickets
          for each row execute function tell_change('tickets');
        create trigger told after insert or update or delete on routes
          for each row execute function tell_change('tickets');
        create trigger told after insert or update on route_revisions
          for each row execute function tell_change('tickets');
        create trigger told after insert or update of state on renders
          for each row execute function tell_change('tickets');
        create trigger told_batch after insert or update on renders
          for each row when (new.batch_id is not null) execute function tell_change('batches');
        create trigger told after insert or update or delete on batches
          for each row execute function tell_change('batches');
        create trigger told after insert or update or delete on sheets
          for each row execute function tell_change('sheets');
        create trigger told after insert or update or delete on runs
          for each row execute function tell_change('runs', 'machines');
        create trigger told after insert or update or delete on machines
          for each row execute function tell_change('machines');
        create trigger told after insert or update or delete on materials
          for each row execute function tell_change('materials');
        create trigger told after insert or update or delete on curves
          for each row execute function tell_change('materials');
        create trigger told after insert or update or delete on house_routes
          for each row execute function tell_change('house-routes');
      `.execute(db);
    },
  },
  "010-board": {
    async up(db) {
      // Where a ticket stands, and the words it is found by, lie on it, so that the board reads no more than it shows. The
      // database keeps them, whoever writes what they follow from.
      await sql`
        create extension if not exists pg_trgm;
        alter table tickets
          add column state text not null default 'draft',
          add column looks int not null default 0,
          add column stops int not null default 0,
          add column words text not null default '';
        create function sum_up_ticket(which bigint) returns void language sql as $$
          update tickets t set state = s.state, looks = s.looks, stops = s.stops, words = s.words
          from (
            select
              case
                when k.archived_at is not null then 'archived'
                when count(r.id) > 0 and bool_and(r.handed) then 'handed over'
                when sum(r.stops) > 0 then 'to stop'
                when sum(r.looks) > 0 then 'to look at'
                when count(r.looks) = 0 then 'draft'
                else 'ready'
              end as state,
              coalesce(sum(r.looks), 0)::int as looks,
              coalesce(sum(r.stops), 0)::int as stops,
              lower(concat_ws(' ', k.number, k.piece, k.customer, k.output, k.material, k.note, a.name)) as words
            from tickets k
            join artworks a on a.id = k.artwork_id
            left join (
              select r.id, r.ticket_id, v.looks, v.stops, exists (
                select from renders d
                where d.route_id = r.id and d.revision = r.revision and d.state = 'done' and d.kind = 'hand over'
              ) as handed
              from routes r join route_revisions v on v.route_id = r.id and v.revision = r.revision
            ) r on r.ticket_id = k.id
            where k.id = which
            group by k.id, a.name
          ) s
          where t.id = which
            and (t.state, t.looks, t.stops, t.words) is distinct from (s.state, s.looks, s.stops, s.words)
        $$;
        create function sum_up_own_ticket() returns trigger language plpgsql as $$
        begin
          perform sum_up_ticket(new.id);
          return null;
        end $$;
        create function sum_up_routes_ticket() returns trigger language plpgsql as $$
        begin
          perform sum_up_ticket(coalesce(new.ticket_id, old.ticket_id));
          return null;
        end $$;
        create function sum_up_ticket_of_route() returns trigger language plpgsql as $$
        begin
          perform sum_up_ticket(r.ticket_id) from routes r where r.id = new.route_id and r.revision = new.revision;
          return null;
        end $$;
        create trigger summed_up
          after insert or update of piece, customer, output, material, note, artwork_id, archived_at on tickets
          for each row execute function sum_up_own_ticket();
        create trigger summed_up after insert or update of revision or delete on routes
          for each row execute function sum_up_routes_ticket();
        create trigger summed_up after insert or update of looks, stops on route_revisions
          for each row execute function sum_up_ticket_of_route();
        create trigger summed_up after insert or update of state on renders
          for each row when (new.kind = 'hand over' and new.state = 'done')
          execute function sum_up_ticket_of_route();
        select sum_up_ticket(id) from tickets;
        create index tickets_due on tickets ((archived_at is not null), (coalesce(due, 'infinity'::date)), number);
        create index tickets_number on tickets ((archived_at is not null), (-number));
        create index tickets_customer on tickets ((archived_at is not null), customer, number);
        create index tickets_looks on tickets ((archived_at is not null), (-stops), (-looks), number);
        create index tickets_state on tickets (state);
        create index tickets_words on tickets using gin (words gin_trgm_ops);
        -- Those whose worker was lost are looked for all the time, among all that was ever made.
        create index renders_running on renders (beat_at) where state = 'running';
      `.execute(db);
    },
  },
  "011-halves": {
    up: async (db) => {
      await sql`
        create table artwork_halves (
          artwork_id bigint not null references artworks on delete cascade,
          times int not null,
          sha256 text not null references blobs,
          primary key (artwork_id, times)
        );
        create index artwork_halves_blob on artwork_halves (sha256);
      `.execute(db);
    },
  },
  "012-left-over": { up: leftOver },
  "013-pages": { up: pages },
  "014-layers": {
    up: async (db) => {
      await sql`alter table artworks add column layers jsonb not null default '[]'`.execute(db);
    },
  },
  "015-fonts": {
    up: async (db) => {
      await sql`
        create table fonts (
          sha256 text primary key references blobs,
          name text not null,
          letters int not null,
          is_lines boolean not null,
          bytes bigint not null,
          retired_at timestamptz,
          created_at timestamptz not null default now()
        );
        create trigger told after insert or update or delete on fonts
          for each row execute function tell_change('fonts');
      `.execute(db);
    },
  },
  "016-things": {
    up: async (db) => {
      await sql`
        create table photos (
          sha256 text primary key,
          artwork_id bigint not null references artworks,
          created_at timestamptz not null default now()
        );
        create index photos_artwork on photos (artwork_id);
        create table things (
          id bigint generated always as identity primary key,
          name text not null unique,
          body jsonb not null,
          created_at timestamptz not null default now()
        );
        create table places (
          id bigint generated always as identity primary key,
          name text not null,
          area text not null,
          x_mm double precision not null,
          y_mm double precision not null,
          created_at timestamptz not null default now(),
          unique (area, name)
        );
        create trigger told after insert or update or delete on things
          for each row execute function tell_change('things');
        create trigger told after insert or update or delete on places
          for each row execute function tell_change('things');
      `.execute(db);
    },
  },
  "017-people": { up: people },
  "018-customers": { up: customers },
};

export const migrations: MigrationProvider = { getMigrations: async () => MIGRATIONS };
