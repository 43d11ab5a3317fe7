import { Menu } from "@mantine/core";
import { lazy, Suspense, useState } from "react";
import { useNavigate } from "react-router";
import { useDoor, useSession } from "../api/people";
import css from "./PersonMenu.module.css";

const OwnDialog = lazy(() => import("./OwnDialog").then((m) => ({ default: m.OwnDialog })));
const ChangePerson = lazy(() => import("./ChangePerson").then((m) => ({ default: m.ChangePerson })));

/** Who is here; coming and going. */
export function PersonMenu() {
  const { data } = useSession();
  const { signOut } = useDoor();
  const navigate = useNavigate();
  const [open, setOpen] = useState<"own" | "change" | null>(null);
  if (!data?.person) return null;
  const { person, by, rights } = data;
  const demo = by === "demo";
  const how = demo ? "demo" : by === "pin" ? "by PIN" : null;
  return (
    <>
      <Menu position="bottom-end" width={264}>
        <Menu.Target>
          <button
            type="button"
            className={css.person}
            aria-label={`${[person.name, how].filter(Boolean).join(" ")}, ${person.role}`}
          >
            {person.name} {how && <span>{how}</span>}
          </button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Label>
            {demo
              ? "The demo signs its operator in by itself on this machine. From anywhere else it asks."
              : `${person.name}, ${person.role}`}
          </Menu.Label>
          <Menu.Item onClick={() => setOpen("change")}>Change of person …</Menu.Item>
          {by === "password" && (
            <Menu.Item onClick={() => setOpen("own")}>Password, PIN, second factor …</Menu.Item>
          )}
          {rights.includes("people") && (
            <Menu.Item onClick={() => void navigate("/people")}>People of the shop</Menu.Item>
          )}
          {!demo && (
            <>
              <Menu.Divider />
              <Menu.Item onClick={() => signOut.mutate(false)}>Sign out</Menu.Item>
              {by === "password" && (
                <Menu.Item onClick={() => signOut.mutate(true)}>Sign out everywhere</Menu.Item>
              )}
            </>
          )}
        </Menu.Dropdown>
      </Menu>
      <Suspense>
        {open === "own" && <OwnDialog person={person} close={() => setOpen(null)} />}
        {open === "change" && <ChangePerson here={person.id} close={() => setOpen(null)} />}
      </Suspense>
    </>
  );
}
