import { sql, type Kysely } from "kysely";

/**
 * Whom the shop works for. A ticket's customer is written as a name; the database finds the customer of that name, or makes
 * one, so that whoever writes a ticket has nothing more to do.
 */
export async function customers(db: Kysely<unknown>): Promise<void> {
  await sql`
    -- Tickets are found by small letters of every script too.
    do $$ begin
      execute replace(pg_get_functiondef('sum_up_ticket(bigint)'::regprocedure), 'lower(concat_ws', 'fold(concat_ws');
    end $$;
    create table customers (
      id bigint generated always as identity primary key,
      name text not null,
      email text not null default '',
      phone text not null default '',
      address text not null default '',
      note text not null default '',
      created_at timestamptz not null default now()
    );
    create unique index customers_name on customers (fold(name));
    create index customers_words on customers using gin
      (fold(name || ' ' || email || ' ' || phone || ' ' || address) gin_trgm_ops);
    insert into customers (name, created_at)
      select distinct on (fold(btrim(customer))) btrim(customer), created_at from tickets
      where btrim(customer) <> '' order by fold(btrim(customer)), created_at;
    alter table tickets
      add column customer_id bigint references customers,
      add column ordered_again bigint references tickets on delete set null;
    update tickets t set customer_id = c.id, customer = c.name from customers c
      where fold(btrim(t.customer)) = fold(c.name);
    create index tickets_of_customer on tickets (customer_id, number);
    alter table photos add column customer_id bigint references customers;
    alter table journal add column customer_id bigint;
    create index journal_customer on journal (customer_id) where customer_id is not null;
    create function link_customer() returns trigger language plpgsql as $$
    declare wanted text := btrim(new.customer);
    begin
      new.customer_id := null;
      new.customer := wanted;
      if wanted = '' then return new; end if;
      loop
        select id, name into new.customer_id, new.customer from customers where fold(name) = fold(wanted);
        if found then return new; end if;
        insert into customers (name) values (wanted) on conflict do nothing;
      end loop;
    end $$;
    create trigger linked before insert or update of customer on tickets
      for each row execute function link_customer();
    create function rename_customer() returns trigger language plpgsql as $$
    begin
      update tickets set customer = new.name where customer_id = new.id and customer <> new.name;
      return null;
    end $$;
    create trigger renamed after update of name on customers
      for each row when (old.name <> new.name) execute function rename_customer();
    select sum_up_ticket(id) from tickets;
    create trigger told after insert or update or delete on customers
      for each row execute function tell_change('customers');
  `.execute(db);
}
