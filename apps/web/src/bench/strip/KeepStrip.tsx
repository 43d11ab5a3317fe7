import { type NewStrip, type StripView } from "@hardline/contract";
import { type Rect } from "@hardline/core/raster/types";
import { type Route } from "@hardline/core/route/route";
import { notifications } from "@mantine/notifications";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../api/client";
import { type BenchEngine } from "../../engine/BenchEngine";
import { tellFault } from "../../shared/tell";
import css from "./StripPanel.module.css";

interface Props {
  readonly engine: BenchEngine;
  readonly saved: { readonly ticketId: string; readonly id: string; readonly revision: number };
  readonly title: string;
  readonly labels: readonly string[];
  readonly routes: readonly Route[];
  readonly part: Rect;
}

/** Makes one bitmap of the strip, labels and all, and keeps it on the ticket to be burned or printed on a scrap. */
export function KeepStrip({ engine, saved, title, labels, routes, part }: Props) {
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  async function keep(): Promise<void> {
    setBusy(true);
    try {
      const picture = await engine.testPiece(routes, part, labels, title);
      if (!picture) throw new Error("The strip was changed meanwhile; try again.");
      const strip: NewStrip = {
        routeId: saved.id,
        revision: saved.revision,
        title,
        labels: [...labels],
        picture,
      };
      await ask<StripView>(`/api/tickets/${saved.ticketId}/strips`, { method: "POST", json: strip });
      await queries.invalidateQueries({ queryKey: ["strips", saved.ticketId] });
      notifications.show({ message: "The strip is kept: its test piece is under Hand over." });
    } catch (error) {
      tellFault("The strip was not kept", error);
    }
    setBusy(false);
  }
  return (
    <button
      type="button"
      className={css.close}
      disabled={busy}
      onClick={() => void keep()}
      title="One bitmap of all variants with their labels, to be burned or printed on a scrap"
    >
      {busy ? "Keeping …" : "Keep as test piece"}
    </button>
  );
}
