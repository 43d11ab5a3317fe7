import { Modal, Switch } from "@mantine/core";
import { useKeysSetting } from "../shared/keys";
import { ROWS } from "../stages/faces";
import css from "./KeysDialog.module.css";

const KEYS: readonly (readonly [string, string])[] = [
  ["F", "Fit the picture"],
  ["D", "Dot for dot"],
  ["R", "Real size"],
  ["+  −  wheel", "Zoom"],
  ["drag  arrows", "Move the picture"],
  ["W", "Wipe between two stages"],
  ["B", "Next backing"],
  ["L held", "Loupe"],
  ["M", "Marks on the material, or bare"],
  ["N", "The ticket's next route beside this one, or alone"],
  ["S", "Test strip"],
  ["T", "The setting in hand as a test strip"],
  ["Shift T", "A second setting: both as a grid"],
  ["1 to 9", "Keep one of the strip"],
  ["Alt ↑  Alt ↓", "Stage before, stage after"],
  ["Ctrl Z", "Undo"],
  ["Ctrl Shift Z", "Redo"],
  ["/", "Find a ticket (on the board)"],
  ...ROWS.flatMap(({ title, face }) =>
    (face.keyList ?? []).map(([keys, does]): readonly [string, string] => [keys, `${title}: ${does}`]),
  ),
  ["Esc", "Close strip and tags"],
  ["?", "These keys"],
];

export function KeysDialog({ opened, close }: { opened: boolean; close: () => void }) {
  const { plain, setPlain } = useKeysSetting();
  return (
    <Modal opened={opened} onClose={close} title="Keys" size="md">
      <Switch
        mb="sm"
        color="dark"
        label="Single letters, digits and the space bar do something"
        description="Off, they are left to whatever reads the screen or takes speech."
        checked={plain}
        onChange={(e) => setPlain(e.currentTarget.checked)}
      />
      <dl className={css.keys}>
        {KEYS.map(([key, does]) => (
          <div key={key}>
            <dt className="mono">{key}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
