import { sql, type Kysely } from "kysely";

/**
 * What may have lost its last name is written down when that happens, so that nobody has to look for it among everything
 * that stays (`blobs/collector.ts`): a table of that, and triggers on each place that can name a blob, an artwork or a
 * revision's picture.
 */
export async function leftOver(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table left_over (
      -- a blob by its fingerprint, an artwork by its id, a revision's picture by route/revision
      what text not null check (what in ('blob', 'artwork', 'picture')),
      key text not null,
      since timestamptz not null default now(),
      primary key (what, key)
    );
    create index left_over_since on left_over (since);
    create function leave_over(which text, keys text[]) returns void language sql as $$
      insert into left_over (what, key)
      select distinct which, k from unnest(keys) k where k is not null order by 2
      on conflict (what, key) do update set since = now()
    $$;
    create function leave_blob() returns trigger language plpgsql as $$
    begin
      case tg_table_name
        when 'blobs' then perform leave_over('blob', array[new.sha256]);
        when 'artworks' then
          perform leave_over('blob', array[old.sha256, old.pixels_sha256, old.thumbnail_sha256]);
        when 'arrivals' then
          perform leave_over('blob', array[old.sha256]);
          perform leave_over('artwork', array[old.artwork_id::text]);
        when 'route_revisions' then perform leave_over('blob', array[old.thumbnail_sha256]);
        when 'strips' then perform leave_over('blob', array[old.picture_sha256]);
        when 'runs' then
          perform leave_over('blob', array[old.program_sha256, old.sent_sha256, old.burned_sha256,
            old.plan->'bitmap'->>'sha256']);
        when 'renders' then
          perform leave_over('blob', array(select f->>'sha256' from jsonb_array_elements(old.files) f));
          perform leave_over('artwork', array[old.wish->>'artworkId']);
        else perform leave_over('blob', array[old.sha256]);
      end case;
      return null;
    end $$;
    create function leave_artwork() returns trigger language plpgsql as $$
    begin
      if tg_table_name = 'artworks' then perform leave_over('artwork', array[new.id::text]);
      else perform leave_over('artwork', array[old.artwork_id::text]);
      end if;
      return null;
    end $$;
    create function leave_picture() returns trigger language plpgsql as $$
    begin
      if tg_table_name = 'routes' then perform leave_over('picture', array[old.id || '/' || old.revision]);
      else perform leave_over('picture', array[new.route_id || '/' || new.revision]);
      end if;
      return null;
    end $$;
    create trigger left_over after insert or update of created_at on blobs
      for each row execute function leave_blob();
    create trigger left_over after update of sha256, pixels_sha256, thumbnail_sha256 or delete on artworks
      for each row execute function leave_blob();
    create trigger left_over after delete on arrivals for each row execute function leave_blob();
    create trigger left_over after update of sha256 or delete on drawings
      for each row execute function leave_blob();
    create trigger left_over after update of sha256 or delete on artwork_halves
      for each row execute function leave_blob();
    create trigger left_over after update of thumbnail_sha256 or delete on route_revisions
      for each row execute function leave_blob();
    create trigger left_over after update of picture_sha256 or delete on strips
      for each row execute function leave_blob();
    create trigger left_over after update of program_sha256, sent_sha256, burned_sha256, plan or delete on runs
      for each row execute function leave_blob();
    create trigger left_over after update of files or delete on renders
      for each row execute function leave_blob();
    create trigger left_over_artwork after insert or update of created_at on artworks
      for each row execute function leave_artwork();
    create trigger left_over_artwork after update of artwork_id or delete on tickets
      for each row execute function leave_artwork();
    create trigger left_over_picture after update of revision on routes
      for each row when (old.revision <> new.revision) execute function leave_picture();
    create trigger left_over_picture after update of thumbnail_sha256 on route_revisions
      for each row when (new.thumbnail_sha256 is not null) execute function leave_picture();

    -- Each name of a blob is found at once.
    create index artworks_pixels on artworks (pixels_sha256);
    create index artworks_thumbnail on artworks (thumbnail_sha256);
    create index arrivals_blob on arrivals (sha256);
    create index arrivals_artwork on arrivals (artwork_id);
    create index drawings_blob on drawings (sha256);
    create index drawings_used on drawings (used_at);
    create index route_revisions_thumbnail on route_revisions (thumbnail_sha256) where thumbnail_sha256 is not null;
    create index strips_picture on strips (picture_sha256);
    create index runs_program on runs (program_sha256);
    create index runs_sent on runs (sent_sha256);
    create index runs_burned on runs (burned_sha256);
    create index runs_bitmap on runs ((plan->'bitmap'->>'sha256'));
    create index renders_files on renders using gin (files jsonb_path_ops);
    create index renders_artwork on renders ((wish->>'artworkId')) where wish->>'artworkId' is not null;
    create index tickets_artwork on tickets (artwork_id);

    -- What was there before is looked at once.
    insert into left_over (what, key, since) select 'blob', sha256, created_at from blobs;
    insert into left_over (what, key, since) select 'artwork', id::text, created_at from artworks;
    insert into left_over (what, key, since)
      select 'picture', route_id || '/' || revision, created_at from route_revisions
      where thumbnail_sha256 is not null;
  `.execute(db);
}
