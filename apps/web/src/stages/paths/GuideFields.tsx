import { Choice, Field } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { type PathTools } from "./usePathTools";

/** Guides that were pulled out of the rulers: locked, or taken away. */
export function GuideFields({ tools: { guides, setGuides } }: { readonly tools: PathTools }) {
  const count = guides.x.length + guides.y.length;
  if (count === 0) return null;
  return (
    <Field label={count === 1 ? "1 guide" : `${count} guides`}>
      <Choice
        label="Guides"
        value={guides.locked ? "locked" : "free"}
        options={[
          { value: "free", label: "free" },
          { value: "locked", label: "locked" },
        ]}
        change={(to) => setGuides({ ...guides, locked: to === "locked" })}
      />
      <button type="button" className={field.link} onClick={() => setGuides({ x: [], y: [], locked: false })}>
        Take away
      </button>
    </Field>
  );
}
