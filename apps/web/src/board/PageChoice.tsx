import { type ChosenPage, type PageLayer, type PageView } from "@hardline/contract";
import { PAGE_BOXES, type PageBox } from "@hardline/contract/constants";
import { Button, Modal, SegmentedControl, Switch } from "@mantine/core";
import { useState } from "react";
import { pagePicture, usePages } from "../api/artworks";
import { Trouble } from "../shared/Trouble";
import css from "./PageChoice.module.css";
import { type Choosing } from "./useArrivals";

const EDGES: Readonly<Record<PageBox, string>> = {
  crop: "As shown",
  trim: "As cut",
  bleed: "With bleed",
};

/** The pages of a file, to choose from: each that is chosen starts a ticket. */
export function PageChoice({ artwork, chosen }: Choosing) {
  const asked = usePages(artwork.id);
  const pages = asked.data ?? [];
  const [picked, setPicked] = useState<readonly number[]>(artwork.pages === 1 ? [1] : []);
  const [box, setBox] = useState<PageBox>("crop");
  const [turned, setTurned] = useState<readonly string[]>([]);
  const layers = layersOf(pages);
  const of = (page: PageView) => partOf(page, box, turned);
  const called = pages[0]?.called ?? "page";
  const edges = PAGE_BOXES.filter((b) => pages.some((p) => p.boxes.some((of) => of.box === b)));
  const turn = (page: number) =>
    setPicked(picked.includes(page) ? picked.filter((p) => p !== page) : [...picked, page]);
  const all = pages.length > 0 && picked.length === pages.length;
  const done = () => chosen([...picked].sort((a, b) => a - b).map((page) => of(pages[page - 1])));
  return (
    <Modal
      opened
      size={980}
      onClose={() => chosen([])}
      title={artwork.pages === 1 ? artwork.name : `${artwork.name}: ${artwork.pages} ${called}s`}
    >
      <div className={css.head}>
        <p>
          {artwork.pages === 1
            ? layers.length > 0
              ? "Choose what of its page is drawn."
              : "Its page has several edges."
            : `Each ${called} that you choose starts a ticket of its own.`}
        </p>
        {edges.length > 1 && (
          <SegmentedControl
            aria-label="Edge of the page"
            value={box}
            onChange={(v) => setBox(v as PageBox)}
            data={edges.map((value) => ({ value, label: EDGES[value] }))}
          />
        )}
      </div>
      {layers.length > 0 && (
        <div className={css.layers} role="group" aria-label="Layers">
          <span>Layers</span>
          {layers.map(({ name, drawn, cut }) => (
            <Switch
              key={name}
              size="xs"
              color="dark"
              label={cut ? `${name}, cut` : name}
              checked={drawn !== turned.includes(name)}
              onChange={() =>
                setTurned(turned.includes(name) ? turned.filter((t) => t !== name) : [...turned, name])
              }
            />
          ))}
        </div>
      )}
      <Trouble title="The pages cannot be shown" of={[asked]} />
      <div className={css.pages}>
        {pages.map((page) => (
          <button
            key={page.page}
            type="button"
            aria-pressed={picked.includes(page.page)}
            aria-label={nameOf(page)}
            onClick={() => turn(page.page)}
          >
            <span className={css.picture}>
              <img loading="lazy" alt="" src={pagePicture(artwork.id, of(page))} />
            </span>
            <b>{nameOf(page)}</b>
            <small className="mono">{sizeOf(page, box)}</small>
          </button>
        ))}
      </div>
      <div className={css.foot}>
        {pages.length > 1 && (
          <Button variant="default" onClick={() => setPicked(all ? [] : pages.map((p) => p.page))}>
            {all ? "Choose none" : "Choose all"}
          </Button>
        )}
        <span className={css.space} />
        <Button variant="default" onClick={() => chosen([])}>
          Leave it
        </Button>
        <Button disabled={picked.length === 0} onClick={done}>
          {picked.length > 1 ? `Start ${picked.length} tickets` : "Start a ticket"}
        </Button>
      </div>
    </Modal>
  );
}

/** All layers of all pages, each once. */
function layersOf(pages: readonly PageView[]): readonly PageLayer[] {
  const all = new Map(pages.flatMap((page) => page.layers.map((layer) => [layer.name, layer] as const)));
  return [...all.values()];
}

/** A page as it is asked for: layers are named where they are others than would be drawn without that. */
function partOf(page: PageView, box: PageBox, turned: readonly string[]): ChosenPage {
  const part = { page: page.page, box: edgeOf(page, box) };
  if (!page.layers.some((layer) => turned.includes(layer.name))) return part;
  const drawn = page.layers.filter((layer) => layer.drawn !== turned.includes(layer.name));
  return { ...part, layers: drawn.map((layer) => layer.name) };
}

/** The edge that is asked for, where the page has it. */
const edgeOf = (page: PageView, box: PageBox): PageBox =>
  page.boxes.some((of) => of.box === box) ? box : "crop";

const nameOf = ({ called, page }: PageView): string => `${called[0].toUpperCase()}${called.slice(1)} ${page}`;

function sizeOf(page: PageView, box: PageBox): string {
  if (page.pixels) return `${page.pixels.join(" × ")} px`;
  const { widthMm, heightMm } = page.boxes.find((of) => of.box === edgeOf(page, box))!;
  return `${Math.round(widthMm * 10) / 10} × ${Math.round(heightMm * 10) / 10} mm`;
}
