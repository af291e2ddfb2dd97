/** Numbers for reading: fixed decimals, so that they line up, and ≈ where the screen shows less than is known. */

/** Decimals shown for a unit: one more than the default tolerance can tell apart is never needed. */
export function decimalsOf(unit: string): number {
  return unit === "in" || unit === "ft" ? 4 : 3;
}

export function fixed(value: number, digits: number): string {
  const text = value.toFixed(digits);
  const shown = Number(text) === 0 ? (0).toFixed(digits) : text;
  const rounded = Math.abs(Number(text) - value) > 1e-9 * Math.max(1, Math.abs(value));
  return (rounded ? "≈" : "") + shown.replace("-", "−");
}

export function signed(value: number, digits: number): string {
  const text = fixed(value, digits);
  return value > 0 ? text.replace(/^(≈?)/, "$1+") : text;
}

/** Marks: two decimals, more only where a mark is finer than a hundredth. */
export function marks(value: number): string {
  const hundredths = Math.abs(value * 100 - Math.round(value * 100)) < 1e-6;
  return value.toFixed(hundredths ? 2 : 4).replace("-", "−");
}

const ANGLES = new Set(["angle", "sweep"]);

/** A value of an inspection list, in the words of its kind. */
export function shown(value: unknown, kind: string, unit: string): string {
  if (value === null || value === undefined) return "–";
  const digits = decimalsOf(unit);
  if (Array.isArray(value)) return value.map((v) => fixed(Number(v), digits)).join(", ");
  if (typeof value === "number") {
    if (kind === "clean") return String(value);
    return ANGLES.has(kind) ? `${fixed(value, 3)}°` : fixed(value, digits);
  }
  return String(value);
}

export function deviation(value: number | null, kind: string, unit: string): string {
  if (value === null) return "";
  if (kind === "clean") return value ? `+${value}` : "0";
  return ANGLES.has(kind) ? `${signed(value, 3)}°` : signed(value, decimalsOf(unit));
}

/** The letter of a comment, so that it is not taken for a finding's number: A to Z, then AA. */
export function letterOf(number: number): string {
  let out = "";
  for (let n = number; n > 0; n = Math.floor((n - 1) / 26))
    out = String.fromCharCode(65 + ((n - 1) % 26)) + out;
  return out;
}

/** A number as it is typed: all its figures, no needless ones. */
export function plainNumber(value: number | null | undefined): string {
  if (value === null || value === undefined) return "";
  return String(Number(value.toPrecision(12)));
}

/** Reads a number that somebody typed, with a point or a comma; with `fractions` also 1/64 and 1 1/2. Null when it is none. */
export function typedNumber(text: string, fractions = false): number | null {
  const plain = text.trim().replace(",", ".").replace("−", "-");
  if (/^-?(\d+\.?\d*|\.\d+)$/.test(plain)) return Number(plain);
  const found = fractions ? /^(?:(\d+)\s+)?(\d+)\s*\/\s*(\d+)$/.exec(plain) : null;
  if (!found || Number(found[3]) === 0) return null;
  return Number(found[1] ?? 0) + Number(found[2]) / Number(found[3]);
}
