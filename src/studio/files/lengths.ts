/** What lengths on a sheet are told in. */
export type Unit = "px" | "mm" | "cm" | "in";
export const units: readonly Unit[] = ["px", "mm", "cm", "in"];

const perInch: Record<Exclude<Unit, "px">, number> = { in: 1, cm: 2.54, mm: 25.4 };

/** A length as whole pixels. */
export const toPixels = (length: number, unit: Unit, ppi: number): number =>
  Math.max(1, Math.round(unit === "px" ? length : (length / perInch[unit]) * ppi));

/** Pixels as a length, to a hundredth. */
export const fromPixels = (px: number, unit: Unit, ppi: number): number =>
  unit === "px" ? px : Math.round((px / ppi) * perInch[unit] * 100) / 100;

export const sizeInWords = (bytes: number): string => {
  if (bytes < 1000) return `${bytes} bytes`;
  if (bytes < 1e6) return `${Math.round(bytes / 1e3)} KB`;
  if (bytes < 1e9) return `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
  return `${(bytes / 1e9).toFixed(1)} GB`;
};
