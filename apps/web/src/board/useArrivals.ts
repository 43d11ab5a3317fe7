import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { type ArtworkView, type ChosenPage } from "@hardline/contract";
import { choosePage, takeIn, type TakingIn } from "../api/artworks";
import { startTicket } from "../api/tickets";
import { tellFault } from "../shared/tell";

/** A file whose pages are to be chosen from, and what is done with the choice: none where it is left. */
export interface Choosing {
  readonly artwork: ArtworkView;
  readonly chosen: (pages: readonly ChosenPage[]) => void;
}

/** Pictures that arrive by drop, paste or file choice: each starts a ticket, and each page that is chosen; a single one is opened. */
export function useArrivals() {
  const navigate = useNavigate();
  const [dropping, setDropping] = useState(false);
  const [takingIn, setTakingIn] = useState<(TakingIn & { readonly name: string }) | null>(null);
  const [choosing, setChoosing] = useState<Choosing | null>(null);

  /** The artworks that a file is: those pages of it that are wanted, where there is a choice. */
  async function artworksOf(file: File, told: (how: TakingIn) => void): Promise<string[]> {
    const artwork = await takeIn(file, told);
    if (artwork.pages === 1 && artwork.boxes.length === 1) return [artwork.id];
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

  async function accept(files: readonly File[]): Promise<void> {
    for (const file of files) {
      const told = (how: TakingIn) => setTakingIn({ ...how, name: file.name });
      try {
        const ids = await artworksOf(file, told);
        for (const id of ids) {
          const ticket = await startTicket(id);
          if (files.length === 1 && ids.length === 1) void navigate(`/tickets/${ticket.id}`);
        }
      } catch (error) {
        tellFault(`${file.name} was not taken in`, error);
      }
    }
    setTakingIn(null);
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
        void accept(Array.from(e.dataTransfer!.files));
      },
    };
    const paste = (e: ClipboardEvent) => {
      const files = Array.from(e.clipboardData?.files ?? []);
      if (files.length > 0) void accept(files);
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

  return { accept, dropping, takingIn, choosing };
}
