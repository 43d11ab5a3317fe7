import { useLayoutEffect, useRef } from "react";

/** Text of a field is made no smaller than this, in pixels. */
const [LEAST_PX, STEP_PX] = [9.5, 0.5];

/** Makes the text of a field as small as it must be to be seen whole, and no smaller. */
export function useFitted(text: string) {
  const input = useRef<HTMLInputElement>(null);
  useLayoutEffect(() => {
    const own = input.current;
    if (!own) return;
    own.style.fontSize = "";
    if (own.scrollWidth <= own.clientWidth) return;
    let size = Number.parseFloat(getComputedStyle(own).fontSize);
    while (own.scrollWidth > own.clientWidth && size > LEAST_PX)
      own.style.fontSize = `${(size -= STEP_PX)}px`;
  }, [text]);
  return input;
}
