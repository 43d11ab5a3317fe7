import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { type TakingIn } from "../api/artworks";
import { startTicket } from "../api/tickets";
import { tellFault } from "../shared/tell";

/** Pictures that arrive by drop, paste or file choice: each starts a ticket; a single one is opened. */
export function useArrivals() {
  const navigate = useNavigate();
  const [dropping, setDropping] = useState(false);
  const [takingIn, setTakingIn] = useState<(TakingIn & { readonly name: string }) | null>(null);

  async function accept(files: readonly File[]): Promise<void> {
    for (const file of files) {
      const told = (how: TakingIn) => setTakingIn({ ...how, name: file.name });
      try {
        const ticket = await startTicket(file, {}, told);
        if (files.length === 1) void navigate(`/tickets/${ticket.id}`);
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

  return { accept, dropping, takingIn };
}
