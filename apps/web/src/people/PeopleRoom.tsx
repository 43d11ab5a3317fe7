import { type PersonView, type TokenView } from "@hardline/contract";
import { ROLE_WORDS, ROLES, type Role } from "@hardline/contract/rights";
import { Button, Select, VisuallyHidden } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import dayjs from "dayjs";
import { useState } from "react";
import { useMay, usePeople, usePeopleChange, useSession, useTokenChange, useTokens } from "../api/people";
import room from "../shared/room/Room.module.css";
import { tellFault } from "../shared/tell";
import { Trouble } from "../shared/Trouble";
import { TopBar } from "../shell/TopBar";
import { InviteForm } from "./InviteForm";
import css from "./People.module.css";
import { ToldOnce, type Told } from "./ToldOnce";
import { TokenForm } from "./TokenForm";

/** The shop's people, what each may do, and the programs that are let in. */
export function PeopleRoom() {
  const asked = usePeople();
  const { data: people = [] } = asked;
  const may = useMay("people");
  const tokens = useTokens(may);
  const [open, setOpen] = useState<"person" | "token" | null>(null);
  const [told, setTold] = useState<Told | null>(null);
  useDocumentTitle("People, Hard Line");
  return (
    <div className={room.page}>
      <TopBar />
      <main className={room.main}>
        <div className={room.head}>
          <h1>People</h1>
          <p>
            {ROLES.map((role) => (
              <span key={role}>
                <b>{role}</b>: {ROLE_WORDS[role]}.{" "}
              </span>
            ))}
          </p>
          {may && <Button onClick={() => setOpen("person")}>Invite somebody</Button>}
        </div>
        <Trouble title="The people cannot be shown" of={[asked]} />
        <table className={room.table}>
          <thead>
            <tr>
              <th scope="col">Name</th>
              <th scope="col">Role</th>
              <th scope="col">Comes in by</th>
              <th scope="col" className={room.number}>
                Browsers
              </th>
              <th scope="col">Since</th>
              <th scope="col">
                <VisuallyHidden>What can be done</VisuallyHidden>
              </th>
            </tr>
          </thead>
          <tbody>
            {people.map((person) => (
              <PersonRow key={person.id} {...{ person, may, tell: setTold }} />
            ))}
          </tbody>
        </table>
        {may && (
          <>
            <div className={css.section}>
              <h2>Programs</h2>
              <p>
                A program that uses the interface (<a href="/api/docs">its description</a>) sends a token with
                each question.
              </p>
              <Button variant="default" onClick={() => setOpen("token")}>
                New token
              </Button>
            </div>
            <Trouble title="The tokens cannot be shown" of={[tokens]} />
            {tokens.data && tokens.data.length > 0 && (
              <table className={room.table}>
                <thead>
                  <tr>
                    <th scope="col">Program</th>
                    <th scope="col">May</th>
                    <th scope="col">Made by</th>
                    <th scope="col">Last used</th>
                    <th scope="col">
                      <VisuallyHidden>What can be done</VisuallyHidden>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {tokens.data.map((token) => (
                    <TokenRow key={token.id} token={token} />
                  ))}
                </tbody>
              </table>
            )}
          </>
        )}
      </main>
      {open === "person" && <InviteForm close={() => setOpen(null)} tell={setTold} />}
      {open === "token" && <TokenForm close={() => setOpen(null)} tell={setTold} />}
      {told && <ToldOnce told={told} close={() => setTold(null)} />}
    </div>
  );
}

interface RowProps {
  readonly person: PersonView;
  readonly may: boolean;
  readonly tell: (told: Told) => void;
}

function PersonRow({ person, may, tell }: RowProps) {
  const { id, name, role, joined, hasPin, secondFactor, sessions, createdAt } = person;
  const { change, invitation, leave, signOut } = usePeopleChange();
  const { data: session } = useSession();
  const [sure, setSure] = useState(false);
  const own = session?.person?.id === id;
  const failed = (title: string) => ({ onError: (e: Error) => tellFault(title, e) });
  const ways = [joined && "password", secondFactor && "second factor", hasPin && "PIN"].filter(Boolean);
  return (
    <tr>
      <th scope="row">
        {name}
        {own && " (you)"}
      </th>
      <td>
        {may ? (
          <Select
            aria-label={`Role of ${name}`}
            w={130}
            data={[...ROLES]}
            value={role}
            onChange={(v) => change.mutate({ id, role: v as Role }, failed("The role was not changed"))}
          />
        ) : (
          role
        )}
      </td>
      <td className={joined || hasPin ? undefined : css.waiting}>
        {ways.length > 0 ? ways.join(", ") : "has no password yet"}
      </td>
      <td className={`mono ${room.number}`}>{sessions || "–"}</td>
      <td>{dayjs(createdAt).format("D MMM YYYY")}</td>
      <td>
        {may && (
          <div className={css.acts}>
            <button
              type="button"
              onClick={() =>
                invitation.mutate(id, {
                  onSuccess: ({ code }) => tell({ kind: "way", name, code }),
                  ...failed("No way in was made"),
                })
              }
            >
              {joined ? "Lost password" : "Way in"}
            </button>
            {sessions > 0 && (
              <button type="button" onClick={() => signOut.mutate(id, failed("Nobody was signed out"))}>
                Sign out
              </button>
            )}
            {!own && (
              <button
                type="button"
                onBlur={() => setSure(false)}
                onClick={() => (sure ? leave.mutate(id, failed("Nobody was removed")) : setSure(true))}
              >
                {sure ? `${name} has left: sure?` : "Has left"}
              </button>
            )}
          </div>
        )}
      </td>
    </tr>
  );
}

function TokenRow({ token: { id, name, scopes, madeBy, usedAt } }: { token: TokenView }) {
  const { remove } = useTokenChange();
  return (
    <tr>
      <th scope="row">{name}</th>
      <td>{scopes.join(", ")}</td>
      <td>{madeBy}</td>
      <td>{usedAt ? dayjs(usedAt).format("D MMM, HH:mm") : "never"}</td>
      <td>
        <div className={css.acts}>
          <button
            type="button"
            onClick={() =>
              remove.mutate(id, { onError: (e) => tellFault("The token was not taken back", e) })
            }
          >
            Take back
          </button>
        </div>
      </td>
    </tr>
  );
}
