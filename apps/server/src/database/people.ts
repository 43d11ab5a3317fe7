import { sql, type Kysely } from "kysely";

/** Who may come in, and what each did. */
export async function people(db: Kysely<unknown>): Promise<void> {
  await sql`
    -- Small letters of every script, whatever the database's own language: with none, lower knows those of English alone.
    do $$ begin
      if exists (select from pg_collation where collname = 'und-x-icu') then
        create function fold(text) returns text language sql immutable strict parallel safe as
          'select lower($1 collate "und-x-icu")';
      else
        create function fold(text) returns text language sql immutable strict parallel safe as 'select lower($1)';
      end if;
    end $$;
    create table people (
      id bigint generated always as identity primary key,
      name text not null,
      role text not null,
      -- argon2id; null until the person has joined
      password text,
      pin text,
      -- of the second factor, and the last step of time whose code was taken: each is taken once
      time_key text,
      time_step bigint not null default 0,
      left_at timestamptz,
      created_at timestamptz not null default now()
    );
    create unique index people_name on people (fold(name)) where left_at is null;
    create table sessions (
      sid text primary key,
      sess json not null,
      expire timestamptz not null
    );
    create index sessions_expire on sessions (expire);
    create index sessions_person on sessions ((sess->>'personId'));
    create table invitations (
      code_sha256 text primary key,
      person_id bigint not null references people on delete cascade,
      ends_at timestamptz not null
    );
    create index invitations_person on invitations (person_id);
    create table tokens (
      id bigint generated always as identity primary key,
      name text not null,
      scopes jsonb not null,
      sha256 text not null unique,
      made_by bigint not null references people,
      used_at timestamptz,
      removed_at timestamptz,
      created_at timestamptz not null default now()
    );
    create table tries (
      key text primary key,
      count int not null,
      since timestamptz not null default now()
    );
    create index tries_since on tries (since);
    create table secrets (
      name text primary key,
      value text not null
    );
    create table journal (
      id bigint generated always as identity primary key,
      at timestamptz not null default now(),
      person_id bigint references people,
      token_id bigint references tokens,
      words text not null,
      -- what it was done to, where that has no column of its own
      subject text,
      ticket_id bigint,
      route_id bigint,
      revision int,
      run_id bigint
    );
    create index journal_at on journal (at);
    create index journal_ticket on journal (ticket_id) where ticket_id is not null;
    alter table route_revisions
      add column person_id bigint references people,
      add column token_id bigint references tokens,
      add column name text,
      add column changes jsonb,
      -- the revision that it brought back
      add column brought_back int;
    create index route_revisions_created on route_revisions (created_at);
    alter table renders add column person_id bigint references people, add column token_id bigint references tokens;
    alter table runs add column person_id bigint references people, add column token_id bigint references tokens;
    alter table curves add column person_id bigint references people, add column token_id bigint references tokens;
    create trigger told after insert or update of name, role, password, pin, time_key, left_at or delete on people
      for each row execute function tell_change('people');
    create trigger told after insert or update of removed_at or delete on tokens
      for each row execute function tell_change('people');
    create table approvals (
      id bigint generated always as identity primary key,
      ticket_id bigint not null references tickets,
      route_id bigint not null references routes,
      revision int not null,
      who text not null,
      person_id bigint references people,
      token_id bigint references tokens,
      created_at timestamptz not null default now()
    );
    create index approvals_ticket on approvals (ticket_id);
    create index approvals_route on approvals (route_id, revision);
    create table comments (
      id bigint generated always as identity primary key,
      ticket_id bigint not null references tickets,
      route_id bigint references routes,
      text text not null,
      -- a place on the artwork, as fractions of it
      at_x double precision,
      at_y double precision,
      person_id bigint references people,
      token_id bigint references tokens,
      done_at timestamptz,
      done_by bigint references people,
      created_at timestamptz not null default now()
    );
    create index comments_ticket on comments (ticket_id);
    -- Who is at a ticket; one whose beat is old has gone without a word.
    create table presences (
      id bigint generated always as identity primary key,
      ticket_id bigint not null references tickets on delete cascade,
      route_id bigint,
      person_id bigint not null references people,
      beat_at timestamptz not null default now()
    );
    create index presences_ticket on presences (ticket_id);
    create trigger told after insert on journal
      for each row execute function tell_change('journal');
  `.execute(db);
}
