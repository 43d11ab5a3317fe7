import { type ArtworkView, type ChosenPage } from "@hardline/contract";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { choosePage, takeIn, type TakingIn } from "../api/artworks";
import { startTicket } from "../api/tickets";
import { tellFault } from "../shared/tell";
import { filesDropped, filesPasted, unpacked, type Refused } from "./filesOf";

/** A file whose pages are to be chosen from, and what is done with the choice: none where it is left. */
export interface Choosing {
  readonly artwork: ArtworkView;
  readonly chosen: (pages: readonly ChosenPage[]) => void;
}

/** How far files are: which one, of how many. */
export interface Arriving extends TakingIn {
  readonly name: string;
  readonly nth: number;
  readonly of: number;
}

/**
 * Pictures that arrive by drop, paste or file choice, alone, in folders or in archives: each starts a ticket, and each page
 * that is chosen; a single one is opened. What is refused is told at the end, and the rest goes on.
 */
export function useArrivals() {
  const navigate = useNavigate();
  const [dropping, setDropping] = useState(false);
  const [takingIn, setTakingIn] = useState<Arriving | null>(null);
  const [choosing, setChoosing] = useState<Choosing | null>(null);
  const [refused, setRefused] = useState<readonly Refused[]>([]);
  const waiting = useRef<File[]>([]);
  const running = useRef(false);

  /** The artworks that a file is: those pages of it that are wanted, where there is a choice. */
  async function artworksOf(file: File, told: (how: TakingIn) => void): Promise<string[]> {
    const artwork = await takeIn(file, told);
    const alone = artwork.pages === 1 && artwork.boxes.length === 1;
    if (alone && artwork.layers.filter((layer) => !layer.cut).length < 2) return [artwork.id];
    told({ doing: "waiting for a choice of its pages", progress: null });
    const pages = await new Promise<readonly ChosenPage[]>((chosen) => setChoosing({ artwork, chosen }));
    setChoosing(null);
    const ids: string[] = [];
    for (const page of pages) {
      told({ doing: `reading page ${page.page}`, progress: ids.length / pages.length });
      ids.push((await choosePage(artwork.id, page)).id);
    }
    return ids;
  }

  async function accept(arrived: readonly File[]): Promise<void> {
    if (arrived.length === 0) return;
    const { files, refused: notUnpacked } = await unpacked(arrived);
    setRefused((before) => [...before, ...notUnpacked]);
    waiting.current.push(...files);
    if (running.current) return; // whoever is at it takes these too
    running.current = true;
    const tickets: string[] = [];
    let [nth, alone] = [0, waiting.current.length === 1 && notUnpacked.length === 0];
    for (let file = waiting.current.shift(); file; file = waiting.current.shift()) {
      const { name } = file;
      nth++;
      alone &&= nth === 1;
      const told = (how: TakingIn) => setTakingIn({ ...how, name, nth, of: nth + waiting.current.length });
      try {
        for (const id of await artworksOf(file, told)) tickets.push((await startTicket(id)).id);
      } catch (error) {
        if (alone) tellFault(`${name} was not taken in`, error);
        else setRefused((before) => [...before, { name, why: (error as Error).message }]);
      }
    }
    running.current = false;
    setTakingIn(null);
    if (alone && tickets.length === 1) void navigate(`/tickets/${tickets[0]}`);
  }

  /** Nothing more is begun; what is under way comes to its end. */
  function stop(): void {
    const left = waiting.current.splice(0);
    setTakingIn((now) => now && { ...now, of: now.nth });
    setRefused((before) => [...before, ...left.map(({ name }) => ({ name, why: "Stopped before it." }))]);
  }

  useEffect(() => {
    let depth = 0; // enter and leave come for every element on the way
    const carriesFiles = (e: DragEvent) => e.dataTransfer?.types.includes("Files") ?? false;
    const on: { [K in "dragenter" | "dragover" | "dragleave" | "drop"]: (e: DragEvent) => void } = {
      dragenter: (e) => {
        if (carriesFiles(e) && ++depth === 1) setDropping(true);
      },
      dragover: (e) => {
        if (carriesFiles(e)) e.preventDefault();
      },
      dragleave: (e) => {
        if (carriesFiles(e) && --depth === 0) setDropping(false);
      },
      drop: (e) => {
        if (!carriesFiles(e)) return;
        e.preventDefault();
        depth = 0;
        setDropping(false);
        filesDropped(e.dataTransfer!).then(accept, (error: unknown) =>
          tellFault("The folder cannot be read", error),
        );
      },
    };
    const paste = (e: ClipboardEvent) => {
      const writes = e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement;
      const { files } = e.clipboardData ?? { files: [] };
      // What is pasted into a field is for the field, unless it is a file.
      if (e.clipboardData && (!writes || files.length > 0)) void accept(filesPasted(e.clipboardData));
    };
    for (const [name, listener] of Object.entries(on))
      window.addEventListener(name, listener as EventListener);
    window.addEventListener("paste", paste);
    return () => {
      for (const [name, listener] of Object.entries(on))
        window.removeEventListener(name, listener as EventListener);
      window.removeEventListener("paste", paste);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the listeners only call state setters and navigate
  }, []);

  return { accept, stop, dropping, takingIn, choosing, refused, forget: () => setRefused([]) };
}
