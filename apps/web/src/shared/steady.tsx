import {
  memo,
  useLayoutEffect,
  useRef,
  useState,
  type ComponentType,
  type ReactNode,
  type RefObject,
} from "react";

/**
 * A control that is drawn anew only when what it shows has changed. What it calls may be another function each time, as it
 * is where it is written down: the newest is called. Lists and plain objects are compared by what they hold. While a hand
 * drags one control of a panel, the others then cost nothing.
 */
export function steady<P extends object>(Control: ComponentType<P>): (props: P) => ReactNode {
  const Kept = memo(Control, isSame) as unknown as ComponentType<object>;
  return function Steady(props: P) {
    const newest = useRef(props);
    useLayoutEffect(() => {
      newest.current = props;
    });
    const [calls] = useState(() => callsTo(newest));
    const given = Object.entries(props).map(([name, value]) => [
      name,
      typeof value === "function" ? calls(name) : value,
    ]);
    return <Kept {...(Object.fromEntries(given) as object)} />;
  };
}

type Call = (...given: unknown[]) => unknown;

/** For each name a function that stays the same, and calls the newest of that name. */
function callsTo(newest: RefObject<object>): (name: string) => Call {
  const known = new Map<string, Call>();
  return (name) => {
    const made = known.get(name) ?? ((...given) => (newest.current as Record<string, Call>)[name](...given));
    known.set(name, made);
    return made;
  };
}

function isSame(before: object, now: object): boolean {
  const [a, b] = [before as Record<string, unknown>, now as Record<string, unknown>];
  const names = Object.keys(a);
  return names.length === Object.keys(b).length && names.every((name) => isAlike(a[name], b[name]));
}

function isAlike(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  return isPlain(a) && isPlain(b) && JSON.stringify(a) === JSON.stringify(b);
}

/** Numbers and words in lists and objects: no element, no picture, nothing with a life of its own. */
function isPlain(value: unknown): boolean {
  if (value === null || ["string", "number", "boolean", "undefined"].includes(typeof value)) return true;
  if (Array.isArray(value)) return value.every(isPlain);
  if (typeof value !== "object" || Object.getPrototypeOf(value) !== Object.prototype) return false;
  return !("$$typeof" in value) && Object.values(value).every(isPlain);
}
