import { Button, FileInput, Group, Modal, Progress } from "@mantine/core";
import { fieldsOf, type FieldValues } from "@hardline/core/route/fields";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { parse } from "papaparse";
import { useState } from "react";
import { useNavigate } from "react-router";
import { newBatchOfRoute } from "../../../api/batches";
import { tellFault } from "../../../shared/tell";
import { useWords } from "../../../shared/unit";
import { type BenchScene } from "../../face";
import css from "./Words.module.css";
import { pictureOf, tryTable, type Tried } from "./tryTable";

interface Props {
  readonly scene: BenchScene;
  readonly close: () => void;
}

/** So many of what does not fit are told. */
const TOLD = 6;

/** A table whose columns fill the words of the route: every cell is tried, then a batch is begun. */
export function FillTable({ scene: { route, ticket, saved, state, finish, frame }, close }: Props) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const words = useWords();
  const fields = fieldsOf(route);
  const [rows, setRows] = useState<readonly FieldValues[] | null>(null);
  const [columns, setColumns] = useState<readonly string[]>([]);
  const [tried, setTried] = useState<readonly Tried[] | null>(null);
  const [share, setShare] = useState(0);
  const [busy, setBusy] = useState(false);

  const take = async (file: File | null) => {
    setTried(null);
    setRows(null);
    if (!file) return;
    const { data, meta } = parse<Record<string, string>>((await file.text()).trim(), {
      header: true,
      skipEmptyLines: true,
      transformHeader: (h) => h.trim(),
    });
    setColumns(meta.fields ?? []);
    setRows(data);
    try {
      if (finish) setTried(await tryTable(route, data, { finish, frame }, setShare));
    } catch (error) {
      tellFault("The table could not be tried", error);
    }
  };
  const begin = async () => {
    setBusy(true);
    try {
      const items = rows!.map((fields_, k) => ({
        name: (Object.values(fields_)[0] || `row ${k + 1}`).slice(0, 200),
        artworkId: ticket.artwork.id,
        fields: Object.fromEntries(fields.map((f) => [f, fields_[f] ?? ""])),
      }));
      await newBatchOfRoute(`${ticket.number} ${ticket.piece}`.slice(0, 120), saved.id, items);
      await queries.invalidateQueries({ queryKey: ["batches"] });
      void navigate("/batches");
    } catch (error) {
      tellFault("The batch was not begun", error);
      setBusy(false);
    }
  };
  const missing = fields.filter((f) => !columns.includes(f));
  const ready = tried !== null && rows !== null && rows.length > 0 && missing.length < fields.length;
  return (
    <Modal opened onClose={close} title="Fill the words from a table" size="lg">
      <div className={css.words}>
        <FileInput
          label={`Table (CSV) with ${fields.length === 1 ? "a column" : "columns"} ${fields.join(", ")}`}
          accept=".csv,text/csv,text/plain"
          clearable
          placeholder="Choose a table"
          onChange={(file) => void take(file)}
        />
        {rows && missing.length > 0 && (
          <p role="alert" className={css.told}>
            The table has no column {missing.join(", ")}; it has {columns.join(", ") || "none"}.
          </p>
        )}
        {rows && !tried && <Progress value={100 * share} aria-label="Trying every cell" />}
        {tried && tried.length > 0 && <Report {...{ route, tried, words }} rows={rows!.length} />}
        <Group justify="flex-end">
          {state !== "saved" && <span>The route is being saved.</span>}
          <Button disabled={!ready || state !== "saved"} loading={busy} onClick={() => void begin()}>
            Begin, {rows?.length ?? 0}
          </Button>
        </Group>
      </div>
    </Modal>
  );
}

interface ReportProps {
  readonly route: BenchScene["route"];
  readonly tried: readonly Tried[];
  readonly rows: number;
  readonly words: (text: string) => string;
}

/** What came of trying every cell: the smallest and the largest, what does not fit, which letters are missing. */
function Report({ route, tried, rows, words }: ReportProps) {
  const smallest = tried.reduce((a, b) => (b.capitalMm < a.capitalMm ? b : a));
  const largest = Math.max(...tried.map((t) => t.capitalMm));
  const longest = tried.reduce((a, b) => (b.text.length > a.text.length ? b : a));
  const shortest = tried.reduce((a, b) => (b.text.length < a.text.length ? b : a));
  const bad = tried.filter((t) => !t.fits || t.missing.length > 0);
  const capital = (of: Tried) => words(`${Math.round(of.capitalMm * 100) / 100} mm`);
  return (
    <div role="status" className={css.report}>
      <p>
        <b>
          {rows} rows{bad.length === 0 ? ", all fit" : `, ${bad.length} want a look`}.
        </b>{" "}
        {smallest.capitalMm < largest
          ? `The smallest capitals are ${capital(smallest)} high: ${smallest.text}.`
          : `All capitals are ${capital(smallest)} high.`}
      </p>
      {bad.length > 0 && (
        <ul>
          {bad.slice(0, TOLD).map((t) => (
            <li key={`${t.row} ${t.field}`}>
              Row {t.row + 1}, {t.text}:{" "}
              {t.missing.length > 0 ? `the font has no ${t.missing.join(" ")}` : "it does not fit"}
            </li>
          ))}
          {bad.length > TOLD && <li>and {bad.length - TOLD} more</li>}
        </ul>
      )}
      <div className={css.pair}>
        <Cell {...{ route }} title="The longest" of={longest} detail={capital(longest)} />
        <Cell {...{ route }} title="The shortest" of={shortest} detail={capital(shortest)} />
      </div>
    </div>
  );
}

function Cell({
  route,
  title,
  of,
  detail,
}: {
  route: BenchScene["route"];
  title: string;
  of: Tried;
  detail: string;
}) {
  const { data } = useQuery({
    queryKey: ["words", route, of.field, of.text],
    queryFn: () => pictureOf(route, of),
    staleTime: Infinity,
  });
  if (!data) return null;
  const { d, isLines, box, room } = data;
  const [w, h] = room ? [room.widthMm, room.heightMm] : [box.width, box.height];
  const [x, y] = [box.x + box.width / 2 - w / 2, box.y + box.height / 2 - h / 2];
  return (
    <figure>
      <svg viewBox={`${x - 0.5} ${y - 0.5} ${w + 1} ${h + 1}`} role="img" aria-label={of.text}>
        {room && <rect {...{ x, y }} width={w} height={h} className={css.room} />}
        <path
          d={d}
          fillRule="evenodd"
          fill={isLines ? "none" : "#15181d"}
          stroke={isLines ? "#15181d" : "none"}
          strokeWidth={0.2}
        />
      </svg>
      <figcaption>
        {title}, {detail}
      </figcaption>
    </figure>
  );
}
