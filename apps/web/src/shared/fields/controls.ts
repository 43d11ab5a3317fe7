import {
  Checkbox as MantineCheckbox,
  Select as MantineSelect,
  Slider as MantineSlider,
  Switch as MantineSwitch,
  type CheckboxProps,
  type SelectProps,
  type SliderProps,
  type SwitchProps,
} from "@mantine/core";
import { steady } from "../steady";

/* Controls of panels that are drawn with every step of a drag elsewhere: each is drawn anew when it changes itself. */
export const Checkbox = steady<CheckboxProps>(MantineCheckbox);
export const Select = steady<SelectProps>(MantineSelect);
export const Slider = steady<SliderProps>(MantineSlider);
export const Switch = steady<SwitchProps>(MantineSwitch);
