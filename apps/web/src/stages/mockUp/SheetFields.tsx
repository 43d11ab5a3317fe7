import { THINGS, thingOf } from "@hardline/core/mockUp/things";
import { type MockUpSettings } from "@hardline/core/stage/mockUp/settings";
import { MultiSelect } from "@mantine/core";
import { Field } from "../../shared/fields/Field";
import { inOrder } from "./sizes";

interface Props {
  readonly settings: MockUpSettings;
  readonly change: (more: Partial<MockUpSettings>) => void;
}

/** What stands on the contact sheet beside the thing itself: every colourway times these. */
export function SheetFields({ settings: { thing, sheet }, change }: Props) {
  const things = [...(typeof thing === "string" ? [thing] : []), ...sheet.things];
  const sizes = inOrder([...new Set(things.flatMap((id) => thingOf(id).sizes))]);
  return (
    <>
      <Field label="Also on">
        <MultiSelect
          size="xs"
          aria-label="Other things on the contact sheet"
          placeholder={sheet.things.length === 0 ? "contact sheet: other things" : ""}
          searchable
          maxDropdownHeight={280}
          data={THINGS.filter((t) => t.id !== thing).map((t) => ({ value: t.id, label: t.title }))}
          value={[...sheet.things]}
          onChange={(v) => change({ sheet: { ...sheet, things: v as typeof sheet.things } })}
        />
      </Field>
      {sizes.length > 0 && (
        <Field label="In sizes">
          <MultiSelect
            size="xs"
            aria-label="Sizes on the contact sheet"
            placeholder={sheet.sizes.length === 0 ? "as above" : ""}
            data={sizes}
            value={sheet.sizes.filter((s) => sizes.includes(s))}
            onChange={(v) => change({ sheet: { ...sheet, sizes: v.slice(0, 8) } })}
          />
        </Field>
      )}
    </>
  );
}
