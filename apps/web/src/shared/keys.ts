import { useHotkeys } from "@mantine/hooks";
import { create } from "zustand";
import { persist } from "zustand/middleware";

interface KeysState {
  /** Whether single letters, digits and the space bar do anything. */
  readonly plain: boolean;
  readonly setPlain: (plain: boolean) => void;
}

/** Single keys can be switched off: whoever speaks to the machine, or has it read out, needs them. @see WCAG 2.1.4 */
export const useKeysSetting = create<KeysState>()(
  persist((set) => ({ plain: true, setPlain: (plain) => set({ plain }) }), { name: "hardline.keys" }),
);

/** Whether the focus was last moved by keys: a button come to by Tab takes keys itself, one that was clicked does not. */
let byKeys = false;
if (typeof window !== "undefined") {
  window.addEventListener("keydown", (e) => e.key === "Tab" && (byKeys = true), true);
  window.addEventListener("pointerdown", () => (byKeys = false), true);
}

const FIELDS = "input, textarea, select, [contenteditable=true]";
const CONTROLS =
  "button, a[href], summary, [role=button], [role=radio], [role=tab], [role=slider], [role=option]";

/**
 * Whether a single key may act where the focus is. Never in a field, nor where the keys are switched off; on a control that
 * was come to by keys a letter might be a command of a screen reader, and the space bar presses any control itself.
 */
export function mayAct(key: string, focused: Element | null): boolean {
  if (!useKeysSetting.getState().plain) return false;
  if (focused?.matches(FIELDS)) return false;
  const onControl = focused?.closest(CONTROLS) ?? null;
  return !onControl || (!byKeys && key !== " ");
}

/** A key that is a single character, by itself or with Shift. */
const isPlain = (combination: string): boolean => /^(shift\+)?(.|space)$/i.test(combination);

/** Keys of a page: each a combination as "mod+Z", "F", "space", and what it does. */
export function useKeys(keys: readonly (readonly [combination: string, act: () => void])[]): void {
  useHotkeys(
    keys.map(([combination, act]) => [
      combination,
      (event: KeyboardEvent) => {
        if (isPlain(combination) && !mayAct(event.key, document.activeElement)) return;
        event.preventDefault();
        act();
      },
      { preventDefault: false },
    ]),
  );
}
