export const MM_PER_INCH = 25.4;

/** Ten dots a millimetre: what a picture has until a route says otherwise. */
export const USUAL_DOTS_PER_INCH = 254;

/** Resolutions that are taken, in dots to an inch. */
export const [LEAST_DPI, MOST_DPI] = [10, 4800];
/** Screen rulings that are taken, in lines to an inch. */
export const [LEAST_RULING, MOST_RULING] = [1, 400];

/** Dots, or pixels, to a millimetre. */
export const dotsPerMm = ({ dotsPerInch }: { readonly dotsPerInch: number }): number =>
  dotsPerInch / MM_PER_INCH;

/** How long a number of dots is, in millimetres. */
export const mmOfDots = (dots: number, { dotsPerInch }: { readonly dotsPerInch: number }): number =>
  (dots / dotsPerInch) * MM_PER_INCH;
