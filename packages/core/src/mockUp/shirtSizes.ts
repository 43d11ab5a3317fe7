/** Across the chest and down from the shoulder, in mm, as garments of these sizes usually measure when laid flat. */
export const GROWN = {
  M: [520, 720],
  S: [480, 695],
  L: [560, 745],
  XL: [605, 770],
  XXL: [650, 795],
} as const;

export const CHILD = {
  "7-8": [400, 520],
  "3-4": [340, 430],
  "5-6": [370, 475],
  "9-11": [430, 570],
  "12-14": [465, 625],
} as const;

/** Sizes by name, the usual one first. */
export const namesOf = (sizes: object): readonly string[] => Object.keys(sizes);

/** Measures of a size; of the usual one where there is none of that name. */
export function measuresOf(
  sizes: Readonly<Record<string, readonly [number, number]>>,
  size: string,
): readonly [chest: number, length: number] {
  return sizes[size] ?? Object.values(sizes)[0];
}
