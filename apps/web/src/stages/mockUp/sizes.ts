const ORDER = ["XS", "S", "M", "L", "XL", "XXL"];

/** Sizes from small to large, whichever is the usual one. */
export const inOrder = (sizes: readonly string[]): string[] =>
  sizes.toSorted((a, b) =>
    ORDER.includes(a) && ORDER.includes(b)
      ? ORDER.indexOf(a) - ORDER.indexOf(b)
      : parseInt(a, 10) - parseInt(b, 10),
  );
