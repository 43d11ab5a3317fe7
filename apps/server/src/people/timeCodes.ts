import { Secret, TOTP } from "otpauth";
import QRCode from "qrcode";

const PERIOD_S = 30;
/** A clock may be wrong by one step in either direction. */
const WINDOW = 1;

const totp = (key: string, name = ""): TOTP =>
  new TOTP({ issuer: "Hard Line", label: name, secret: Secret.fromBase32(key), period: PERIOD_S, digits: 6 });

/** A new key of time codes. @see RFC 6238 */
export const newTimeKey = (): string => new Secret({ size: 20 }).base32;

/** What a phone scans to know the key: SVG. */
export const timeKeyPicture = (key: string, name: string): Promise<string> =>
  QRCode.toString(totp(key, name).toString(), { type: "svg", margin: 1 });

/** The step of time that a code is of; null where it is of none that is taken now. */
export function stepOfCode(key: string, code: string, now = Date.now()): number | null {
  const delta = totp(key).validate({ token: code, timestamp: now, window: WINDOW });
  return delta === null ? null : Math.floor(now / 1000 / PERIOD_S) + delta;
}
