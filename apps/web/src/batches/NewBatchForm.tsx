import { Button, Checkbox, FileInput, Group, Modal, Select, TextInput } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { parse } from "papaparse";
import { useState } from "react";
import { newBatch, type NewItem } from "../api/batches";
import { takeIn } from "../api/artworks";
import { useHouseRoutes } from "../api/house";
import { useTicketsOfRoute } from "../api/tickets";
import { tellFault } from "../shared/tell";
import css from "./Batches.module.css";

/** Lines of a table: the first column names the file, the second, where there is one, is the line that is set. */
function linesOf(csv: string): NewItem[] {
  const { data } = parse<string[]>(csv.trim(), { skipEmptyLines: true });
  const isHead = /^(name|file|person)$/i.test(data[0]?.[0]?.trim() ?? "");
  return data.slice(isHead ? 1 : 0).flatMap(([name, text]) => {
    const known = name?.trim();
    return known ? [{ name: known.slice(0, 200), text: (text?.trim() || known).slice(0, 200) }] : [];
  });
}

/** A batch to begin: pictures, a folder of them, or a table of names. */
export function NewBatchForm({ close, made }: { close: () => void; made: (id: string) => void }) {
  const queries = useQueryClient();
  const { data: routes = [] } = useHouseRoutes();
  const [route, setRoute] = useState<string | null>(null);
  const [name, setName] = useState("");
  const [pictures, setPictures] = useState<File[]>([]);
  const [lines, setLines] = useState<NewItem[]>([]);
  const [busy, setBusy] = useState<string | null>(null);

  async function begin(): Promise<void> {
    const items: NewItem[] = [...lines];
    for (const [k, file] of pictures.entries()) {
      setBusy(`Taking in ${k + 1} of ${pictures.length}`);
      try {
        const { id } = await takeIn(file);
        items.push({ name: file.name.replace(/\.[^.]+$/, ""), artworkId: id });
      } catch (error) {
        tellFault(`${file.name} was not taken in, and is left out`, error);
      }
    }
    try {
      const batch = await newBatch(name.trim() || "Batch", route!, items);
      await queries.invalidateQueries({ queryKey: ["batches"] });
      made(batch.id);
      close();
    } catch (error) {
      tellFault("The batch was not begun", error);
    }
    setBusy(null);
  }
  // Tickets that were started from the house route carry its name.
  const house = routes.find((r) => r.id === route);
  const { data: started = [] } = useTicketsOfRoute(house?.name ?? null);
  const count = pictures.length + lines.length;
  return (
    <Modal opened onClose={close} title="New batch" size="lg">
      <div className={css.form}>
        <TextInput
          label="Name"
          data-autofocus
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
        />
        <Select
          label="House route"
          placeholder={routes.length === 0 ? "Keep a route as a house route first" : "Choose one"}
          data={routes.map((r) => ({ value: r.id, label: r.name }))}
          value={route}
          onChange={setRoute}
        />
        {started.length > 0 && (
          <Checkbox
            label={`All ${started.length} tickets of this house route`}
            checked={lines.some((l) => l.artworkId)}
            onChange={(e) =>
              setLines(
                e.target.checked
                  ? started.map(({ number, piece, artwork }) => ({
                      name: `${number} ${piece}`,
                      artworkId: artwork.id,
                    }))
                  : [],
              )
            }
          />
        )}
        <FileInput
          label="Pictures"
          multiple
          clearable
          placeholder="Choose, or drop a folder's files here"
          value={pictures}
          onChange={setPictures}
        />
        <FileInput
          label="Table of names (CSV): a file's name, and the line that is set in the house's letters"
          accept=".csv,text/csv,text/plain"
          clearable
          placeholder="Choose a table"
          onChange={(file) => void file?.text().then((text) => setLines(linesOf(text)))}
        />
        {lines.length > 0 && (
          <p className={css.note}>
            {lines.length} lines:{" "}
            {lines
              .slice(0, 3)
              .map((l) => l.text ?? l.name)
              .join("; ")}
            {lines.length > 3 ? " …" : ""}
          </p>
        )}
        <Group justify="flex-end">
          {busy && <span className={css.note}>{busy}</span>}
          <Button disabled={!route || count === 0} loading={busy !== null} onClick={() => void begin()}>
            Begin, {count}
          </Button>
        </Group>
      </div>
    </Modal>
  );
}
