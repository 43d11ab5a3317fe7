import { type FontView } from "@hardline/contract";
import { FileButton } from "@mantine/core";
import { useFontChange, useFonts } from "../../../api/fonts";
import { Field } from "../../../shared/fields/Field";
import { Select } from "../../../shared/fields/controls";
import field from "../../../shared/fields/Field.module.css";
import { tellFault } from "../../../shared/tell";
import css from "./Words.module.css";
import { sampleOf, useSamples } from "./useSamples";

interface Props {
  readonly value: string;
  /** Letters that samples are of. */
  readonly text: string;
  readonly change: (key: string) => void;
}

/** A font, by samples of the very words; the shop's own are added here. */
export function FontChoice({ value, text, change }: Props) {
  const { data: fonts = [] } = useFonts();
  const { add, remove } = useFontChange();
  useSamples(fonts);
  const known = new Map(fonts.map((f) => [f.key, f]));
  const own = known.get(value);
  const take = (file: File | null) => {
    if (!file) return;
    add.mutate(file, {
      onSuccess: ({ key }) => change(key),
      onError: (error) => tellFault(`${file.name} was not taken in`, error),
    });
  };
  const data = fonts.map((f) => ({ value: f.key, label: f.title }));
  return (
    <>
      <Field label="Font">
        <Select
          aria-label="Font"
          size="xs"
          allowDeselect={false}
          searchable={fonts.length > 16}
          data={own ? data : [...data, { value, label: "no longer offered" }]}
          value={value}
          maxDropdownHeight={360}
          comboboxProps={{ width: 340, position: "bottom-start" }}
          onChange={(key) => key && change(key)}
          renderOption={({ option }) => <Sample font={known.get(option.value)} text={text} />}
        />
      </Field>
      <p className={css.own}>
        <FileButton accept=".otf,.ttf" onChange={take}>
          {(props) => (
            <button type="button" className={field.link} {...props}>
              Add the shop's own
            </button>
          )}
        </FileButton>
        {own && !own.ships && (
          <button
            type="button"
            className={field.link}
            onClick={() => {
              remove.mutate(own.key);
              change("grotesque");
            }}
          >
            No longer offer it
          </button>
        )}
      </p>
    </>
  );
}

/** So many letters of the words are shown of each font. */
const SHOWN = 24;

function Sample({ font, text }: { font: FontView | undefined; text: string }) {
  if (!font) return null;
  const shown = text.replace(/\s+/g, " ").trim().slice(0, SHOWN) || font.title;
  return (
    <span className={css.sample}>
      <b style={font.isLines ? undefined : { fontFamily: `"${sampleOf(font)}", sans-serif` }}>{shown}</b>
      <small>{font.title}</small>
    </span>
  );
}
