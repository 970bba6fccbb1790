import { useTable } from "./table-store";

const MM_AN_INCH = 25.4;

/** Px of so many tenths of a mm on the sheet's paper, not rounded. */
export const tenths = (n: number): number =>
  (n / 10 / MM_AN_INCH) * (useTable.getState().picture?.ppi ?? 300);
