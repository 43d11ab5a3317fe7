import { type RouteView, type TicketView, type WatchView } from "@hardline/contract";
import { readRoute, type Route } from "@hardline/core/route/route";
import { Button, Group, Modal, Select, TextInput, VisuallyHidden } from "@mantine/core";
import { notifications } from "@mantine/notifications";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../api/client";
import { useHouseRouteChange, useHouseRoutes } from "../api/house";
import { tellFault } from "../shared/tell";
import css from "./RouteTabs.module.css";
import { type RouteKeeper } from "./RouteKeeper";

interface Props {
  readonly ticket: TicketView;
  readonly route: Route;
  readonly saved: RouteView;
  readonly keeper: RouteKeeper;
  readonly watch: WatchView | null;
  readonly go: (routeId: string) => void;
}

/** The ticket's routes as tabs of the docket. A new one starts as a copy of the one that is open. */
export function RouteTabs({ ticket, route, saved, keeper, watch, go }: Props) {
  const queries = useQueryClient();
  const [asked, setAsked] = useState<"add" | "rename" | null>(null);
  const [name, setName] = useState("");
  const [from, setFrom] = useState("");
  const { data: house = [] } = useHouseRoutes();
  const { add } = useHouseRouteChange();

  async function keepForTheHouse(): Promise<void> {
    try {
      await add.mutateAsync({ name, route: keeper.get().value });
      notifications.show({ message: `${name} is kept: other tickets can begin with it.` });
      setAsked(null);
    } catch (error) {
      tellFault("The house route was not kept", error);
    }
  }

  async function done(): Promise<void> {
    try {
      const begin = asked === "add" ? house.find((h) => h.id === from)?.route : undefined;
      const named = readRoute({ ...(begin ?? route), name });
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
    setFrom("");
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
              <OthersHere {...{ watch, routeId: id }} />
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
          {asked === "add" && house.length > 0 && (
            <Select
              mt="sm"
              size="sm"
              label="Begin with"
              data={[
                { value: "", label: "a copy of this one" },
                ...house.map((h) => ({ value: h.id, label: `house route ${h.name}` })),
              ]}
              value={from}
              onChange={(v) => {
                setFrom(v ?? "");
                const chosen = house.find((h) => h.id === v);
                setName(chosen ? chosen.name : `${route.name}, copy`);
              }}
            />
          )}
          <Group justify={asked === "rename" ? "space-between" : "flex-end"} mt="md">
            {asked === "rename" && (
              <Button
                variant="default"
                loading={add.isPending}
                disabled={!name.trim()}
                onClick={() => void keepForTheHouse()}
                title="Other tickets can begin with it"
              >
                Keep as house route
              </Button>
            )}
            <Button type="submit" disabled={!name.trim()}>
              {asked === "rename" ? "Rename" : "Add"}
            </Button>
          </Group>
        </form>
      </Modal>
    </div>
  );
}

/** Who else is at a route now: the initials, the whole name for whoever asks. */
function OthersHere({ watch, routeId }: { watch: WatchView | null; routeId: string }) {
  return watch?.people
    .filter((p) => p.routeId === routeId)
    .map(({ id, name }) => (
      <span key={id} className={css.other} title={`${name} is here too`}>
        <span aria-hidden>{initialsOf(name)}</span>
        <VisuallyHidden>, {name} is here too</VisuallyHidden>
      </span>
    ));
}

const initialsOf = (name: string): string =>
  name
    .split(/\s+/)
    .map((word) => [...word][0])
    .slice(0, 2)
    .join("");
