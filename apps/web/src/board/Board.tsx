import { TICKET_STATES, type TicketOrder } from "@hardline/contract/constants";
import { Button, FileButton, Select, TextInput } from "@mantine/core";
import { useDocumentTitle } from "@mantine/hooks";
import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { useMay } from "../api/people";
import { useTicketCounts, useTickets } from "../api/tickets";
import { TopBar } from "../shell/TopBar";
import { Arriving, NotTakenIn } from "./Arriving";
import css from "./Board.module.css";
import { arrange, SORTS, within } from "./arrange";
import { useBoardView, useScrollPlace, type Filter } from "./boardView";
import { PageChoice } from "./PageChoice";
import { TicketCard } from "./TicketCard";
import { useArrivals } from "./useArrivals";
import { useCardRows } from "./useCardRows";
import { useKeys } from "../shared/keys";
import { Trouble } from "../shared/Trouble";
import { useTyped } from "../shared/useTyped";

/** So few tickets have larger cards. */
const FEW = 16;

/** Fields of lengths are no part of what the board loads. */
const WordsTicket = lazy(() => import("./WordsTicket").then((m) => ({ default: m.WordsTicket })));

/** The tickets of the shop, soonest due first, days sharing rows; a picture dropped anywhere starts a new one. */
export function Board() {
  const { filter, sort, search, set } = useBoardView();
  const searchField = useRef<HTMLInputElement>(null);
  const find = useTyped(search);
  const asked = useTickets({ state: filter, order: sort, find });
  const { data, isPending } = asked;
  const { data: counts } = useTicketCounts(find);
  const shown = data?.pages.flatMap((page) => page.tickets) ?? [];
  const roomy = shown.length <= FEW;
  const { scroller, keepPlace } = useScrollPlace(data !== undefined);
  const { grid, from, to, style } = useCardRows(scroller, shown.length, roomy);
  const [words, setWords] = useState(false);
  const mayMake = useMay("make");
  const { accept, stop, dropping, takingIn, choosing, refused, forget } = useArrivals();
  useDocumentTitle("Tickets, Hard Line");
  useKeys([["/", () => searchField.current?.focus()]]);

  const countOf = (state: Filter): number =>
    state !== "all"
      ? counts![state]
      : TICKET_STATES.reduce((sum, s) => sum + (s === "archived" && find === "" ? 0 : counts![s]), 0);

  return (
    <div className={css.page}>
      <TopBar />
      <main className={css.main} ref={scroller} onScroll={keepPlace}>
        <div className={css.head}>
          <h1>Tickets</h1>
          <div className={css.states} role="group" aria-label="State">
            {(["all", ...TICKET_STATES] as Filter[]).map((state) => (
              <button
                key={state}
                type="button"
                aria-pressed={filter === state}
                onClick={() => set({ filter: state })}
              >
                {state === "all" ? "All" : state[0].toUpperCase() + state.slice(1)}
                {counts && <span className="mono">{countOf(state)}</span>}
              </button>
            ))}
          </div>
          <span className={css.space} />
          <Select
            aria-label="Order"
            data={[...SORTS]}
            value={sort}
            onChange={(v) => set({ sort: v as TicketOrder })}
            w={132}
            size="sm"
          />
          <TextInput
            ref={searchField}
            aria-label="Find a ticket"
            placeholder="Number, piece, customer   /"
            value={search}
            onChange={(e) => set({ search: e.currentTarget.value })}
            w={196}
          />
          {mayMake && (
            <>
              <Button variant="default" onClick={() => setWords(true)}>
                Words
              </Button>
              <FileButton multiple onChange={accept} accept="image/*,.heic,.heif,.avif,.jxl,.dxf,.pdf,.zip">
                {(props) => <Button {...props}>New ticket</Button>}
              </FileButton>
            </>
          )}
        </div>
        {words && (
          <Suspense fallback={null}>
            <WordsTicket close={() => setWords(false)} />
          </Suspense>
        )}
        {takingIn && <Arriving how={takingIn} stop={stop} />}
        {refused.length > 0 && <NotTakenIn refused={refused} forget={forget} />}
        <Trouble title="The tickets cannot be shown" of={[asked]} />
        {isPending && <Waiting />}
        <div className={css.cards} ref={grid} style={style} data-roomy={roomy || undefined}>
          {within(arrange(shown, sort), from, to).map(({ title, detail, tickets, skipped }) => (
            <section key={title} className={css.group} aria-label={title}>
              {tickets.map((ticket, k) => (
                <div key={ticket.id} data-first={skipped + k === 0 || undefined}>
                  <div className={css.day}>
                    {skipped + k === 0 && (
                      <h2>
                        {title} {detail && <small>{detail}</small>}
                      </h2>
                    )}
                  </div>
                  <TicketCard ticket={ticket} />
                </div>
              ))}
            </section>
          ))}
        </div>
        {asked.hasNextPage && <More asked={asked} />}
        {data && shown.length === 0 && (find !== "" || filter !== "all") && (
          <p className={css.none}>No ticket {find ? `with “${find}”` : "in this state"}.</p>
        )}
        {data && mayMake && filter !== "archived" && (
          <div className={css.drop}>
            <b>Drop pictures anywhere</b>
            <span>files, a folder or an archive, or paste one: each starts a ticket</span>
          </div>
        )}
      </main>
      {choosing && <PageChoice key={choosing.artwork.id} {...choosing} />}
      {dropping && <div className={css.veil}>Drop to start a ticket with each picture</div>}
    </div>
  );
}

/** The next stretch, asked for as soon as the end of what is shown comes near. */
function More({ asked: { fetchNextPage, isFetchingNextPage } }: { asked: ReturnType<typeof useTickets> }) {
  const end = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (isFetchingNextPage) return;
    const seen = new IntersectionObserver(([{ isIntersecting }]) => isIntersecting && void fetchNextPage(), {
      root: end.current!.closest("main"),
      rootMargin: "800px",
    });
    seen.observe(end.current!);
    return () => seen.disconnect();
  }, [fetchNextPage, isFetchingNextPage]);
  return (
    <div ref={end} className={css.more}>
      <Button variant="default" loading={isFetchingNextPage} onClick={() => void fetchNextPage()}>
        Show more
      </Button>
    </div>
  );
}

const Waiting = () => (
  <div className={css.cards} role="status" aria-label="Loading tickets">
    {[0, 1, 2].map((i) => (
      <div key={i} className={css.skeleton} />
    ))}
  </div>
);
