import { type Variants } from "../stage";
import { METHODS, methodOf } from "./methods";
import { type BlackWhiteSettings } from "./settings";

/** Methods side by side: every method's samples, what is set now in the place of the one it is nearest to. */
const byMethod: Variants<BlackWhiteSettings> = {
  id: "method",
  title: "Method",
  spread: (now) => {
    // The dots come first, the line last.
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

/** What a method itself can spread out; nothing while another method is set. */
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
