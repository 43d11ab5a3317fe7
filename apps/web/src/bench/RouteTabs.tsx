import { type RouteView, type TicketView } from "@hardline/contract";
import { readRoute, type Route } from "@hardline/core";
import { Button, Group, Modal, TextInput } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../api/client";
import { tellFault } from "../shared/tell";
import css from "./RouteTabs.module.css";
import { type RouteKeeper } from "./RouteKeeper";

interface Props {
  readonly ticket: TicketView;
  readonly route: Route;
  readonly saved: RouteView;
  readonly keeper: RouteKeeper;
  readonly go: (routeId: string) => void;
}

/** The ticket's routes as tabs of the docket. A new one starts as a copy of the one that is open. */
export function RouteTabs({ ticket, route, saved, keeper, go }: Props) {
  const queries = useQueryClient();
  const [asked, setAsked] = useState<"add" | "rename" | null>(null);
  const [name, setName] = useState("");

  async function done(): Promise<void> {
    try {
      const named = readRoute({ ...route, name });
      if (asked === "rename") {
        keeper.change(named);
        await keeper.flush();
      } else {
        await keeper.flush();
        const added = await ask<RouteView>(`/api/tickets/${ticket.id}/routes`, {
          method: "POST",
          json: { route: named },
        });
        go(added.id);
      }
      setAsked(null);
      await queries.invalidateQueries({ queryKey: ["ticket", ticket.id] });
    } catch (error) {
      tellFault("The route was not changed", error);
    }
  }

  const prompt = (what: "add" | "rename") => {
    setName(what === "rename" ? route.name : `${route.name}, copy`);
    setAsked(what);
  };

  return (
    <div className={css.tabs}>
      <div className={css.list} role="tablist" aria-label="Routes">
        {ticket.routes.map(({ id, name: given }) => {
          const here = id === saved.id;
          return (
            <button
              key={id}
              type="button"
              role="tab"
              aria-selected={here}
              className={css.tab}
              title={here ? "Rename this route" : given}
              onClick={() => (here ? prompt("rename") : go(id))}
            >
              {here ? route.name : given}
            </button>
          );
        })}
      </div>
      <button
        type="button"
        className={css.add}
        aria-label="Add a route"
        title="Add a route: a copy of this one"
        onClick={() => prompt("add")}
      >
        +
      </button>
      <Modal
        opened={asked !== null}
        onClose={() => setAsked(null)}
        title={asked === "rename" ? "Name of this route" : "A further route"}
      >
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void done();
          }}
        >
          <TextInput
            data-autofocus
            label="Name"
            value={name}
            maxLength={120}
            onChange={(e) => setName(e.currentTarget.value)}
          />
          <Group justify="flex-end" mt="md">
            <Button type="submit" disabled={!name.trim()}>
              {asked === "rename" ? "Rename" : "Add"}
            </Button>
          </Group>
        </form>
      </Modal>
    </div>
  );
}
