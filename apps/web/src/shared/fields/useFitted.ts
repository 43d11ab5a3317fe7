import { useLayoutEffect, useRef } from "react";

/** Text of a field is made no smaller than this, in pixels. */
const [LEAST_PX, STEP_PX] = [9.5, 0.5];

/**
 * Makes the text of a field as small as it must be to be seen whole, and no smaller. Every letter is as wide as any other,
 * so only another number of them is measured: the page is laid out for that, which a dragged control cannot wait for.
 */
export function useFitted(text: string) {
  const input = useRef<HTMLInputElement>(null);
  const letters = text.length;
  useLayoutEffect(() => {
    const own = input.current;
    if (!own) return;
    own.style.fontSize = "";
    if (own.scrollWidth <= own.clientWidth) return;
    let size = Number.parseFloat(getComputedStyle(own).fontSize);
    while (own.scrollWidth > own.clientWidth && size > LEAST_PX)
      own.style.fontSize = `${(size -= STEP_PX)}px`;
  }, [letters]);
  return input;
}
