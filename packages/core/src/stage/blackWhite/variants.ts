import { type Variants } from "../stage";
import { METHODS, methodOf } from "../../dots/methods";
import { type BlackWhiteSettings } from "./settings";

/**
 * The test strip of methods: a few samples of each method, side by side. What is set now takes the place of the sample that
 * it is nearest to, and is marked as kept.
 */
const byMethod: Variants<BlackWhiteSettings> = {
  id: "method",
  title: "Method",
  spread: (now) => {
    // Methods that make dots come first; the one that draws lines comes last.
    const order = [...METHODS].sort((a, b) => Number(a.lineWork) - Number(b.lineWork));
    return order.flatMap((method) => {
      const current = method.id === now.method ? method.sampleOf(now) : null;
      return method.samples.map(({ label, settings }, k) => ({
        label: current?.at === k ? current.label : label,
        settings:
          current?.at === k
            ? now
            : ({
                ...(method.id === now.method ? now : { method: method.id, material: now.material }),
                ...settings,
              } as BlackWhiteSettings),
        kept: current?.at === k,
      }));
    });
  },
};

/** The test strips that each method has of its own settings. They are empty while another method is set. */
const ofMethods: Variants<BlackWhiteSettings>[] = METHODS.flatMap((method) =>
  method.variants.map((one) => ({
    id: one.id,
    title: one.title,
    without: `${one.title} is a setting of ${method.title}.`,
    spread: (now: BlackWhiteSettings) =>
      methodOf(now) === method
        ? one.spread(now).map(({ label, settings }) => ({
            label,
            settings: settings as BlackWhiteSettings,
            kept: JSON.stringify(settings) === JSON.stringify(now),
          }))
        : [],
  })),
);

/** Settings of black and white that can be spread out into a test strip. */
export const VARIANTS: readonly Variants<BlackWhiteSettings>[] = [byMethod, ...ofMethods];
