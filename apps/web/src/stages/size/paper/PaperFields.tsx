import { KNOWN_PAPERS, knownPaper, toldBy } from "@hardline/core/paper/proportion";
import { Lens, MOST_BEND } from "@hardline/core/paper/lens";
import { type Paper } from "@hardline/core/paper/settings";
import { Button } from "@mantine/core";
import { IconPerspective, IconPerspectiveOff } from "@tabler/icons-react";
import { Select, Switch } from "../../../shared/fields/controls";
import { Choice, Field, Sliding } from "../../../shared/fields/Field";
import css from "../../../shared/fields/Field.module.css";
import { NumberField } from "../../../shared/fields/NumberField";
import { type BenchScene } from "../../face";
import { type SizeTools } from "../useSizeTools";
import { paperOf, straightEdges } from "./usePaper";

const [TOLD, TYPED] = ["told by its corners", "typed"];

/** A photograph of a paper, card, sign or screen made flat. */
export function PaperFields({ scene, tools }: { readonly scene: BenchScene; readonly tools: SizeTools }) {
  const { paper, put, change } = paperOf(scene);
  const { placing, setPlacing } = tools;
  if (scene.ticket.artwork.vector) return null;
  return (
    <>
      <Field label="Paper">
        <Button
          size="xs"
          variant={placing ? "filled" : "default"}
          aria-pressed={placing}
          leftSection={<IconPerspective size={15} />}
          onClick={() => setPlacing(!placing)}
        >
          {placing ? "Done" : paper ? "Corners" : "Make a paper flat"}
        </Button>
        {paper && (
          <Button
            size="xs"
            variant="default"
            aria-label="As photographed"
            title="As photographed"
            onClick={() => {
              put(undefined);
              setPlacing(false);
            }}
          >
            <IconPerspectiveOff size={15} />
          </Button>
        )}
      </Field>
      {paper && (
        <>
          <Proportion paper={paper} artwork={scene.ticket.artwork} change={change} />
          <Field label="Edges">
            <Choice
              label="Edges of the paper"
              value={paper.curled ? "curled" : "straight"}
              options={[
                { value: "straight", label: "straight" },
                { value: "curled", label: "curled" },
              ]}
              change={(edges) => change({ curled: edges === "curled" ? straightEdges(paper) : undefined })}
            />
          </Field>
          <Sliding
            label="Lens"
            of="paper.lens"
            scale={100}
            unit="%"
            decimals={1}
            value={Math.round(paper.lens * 1000) / 10}
            min={-100 * MOST_BEND}
            max={100 * MOST_BEND}
            step={0.1}
            change={(v) => change({ lens: Math.round(v * 10) / 1000 })}
          />
          <Field label="Light" of="paper.light">
            <Switch
              label="even on the paper"
              checked={paper.light}
              onChange={(e) => change({ light: e.currentTarget.checked })}
            />
          </Field>
        </>
      )}
    </>
  );
}

interface ProportionProps {
  readonly paper: Paper;
  readonly artwork: { readonly width: number; readonly height: number };
  readonly change: (some: Partial<Paper>) => void;
}

/** Width by height: as the corners tell, a known paper's, or typed. */
function Proportion({ paper, artwork, change }: ProportionProps) {
  const lens = new Lens(artwork, paper.lens);
  const corners = paper.corners.map(([u, v]) => lens.straight([u * artwork.width, v * artwork.height]));
  const told = toldBy(corners, artwork).proportion;
  const lying = (paper.proportion ?? told) >= 1;
  const options = KNOWN_PAPERS.map((known) => ({
    value: known.name,
    label: known.name,
    proportion: lying ? known.proportion : 1 / known.proportion,
  }));
  const chosen =
    paper.proportion === undefined
      ? TOLD
      : (options.find((o) => Math.abs(o.proportion / paper.proportion! - 1) < 1e-3)?.value ?? TYPED);
  const near = knownPaper(told);
  return (
    <>
      <Field label="Proportion" of="paper.proportion">
        <Select
          aria-label="Proportion of the paper"
          allowDeselect={false}
          value={chosen}
          data={[
            { value: TOLD, label: `By its corners: ${told.toFixed(3)}` },
            ...options.map(({ value, label }) => ({ value, label })),
            { value: TYPED, label: "As typed" },
          ]}
          onChange={(v) =>
            change({
              proportion:
                v === TOLD
                  ? undefined
                  : (options.find((o) => o.value === v)?.proportion ?? Math.round(told * 1000) / 1000),
            })
          }
        />
        {chosen === TYPED && (
          <NumberField
            label="Width by height"
            value={paper.proportion!}
            min={0.05}
            max={20}
            change={(proportion) => change({ proportion })}
          />
        )}
      </Field>
      {chosen === TOLD && near && (
        <p className={css.note}>
          That is within {(100 * Math.abs(Math.max(told, 1 / told) / near.proportion - 1)).toFixed(1)} % of{" "}
          <b>{near.name}</b>.{" "}
          <Button
            size="compact-xs"
            variant="light"
            onClick={() => change({ proportion: told >= 1 ? near.proportion : 1 / near.proportion })}
          >
            Take that
          </Button>
        </p>
      )}
    </>
  );
}
