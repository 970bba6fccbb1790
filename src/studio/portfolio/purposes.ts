import { type Unit } from "../files/lengths";
/** What a picture may be for, with its size. Sheets by ISO 216 and the US series. */
export type Purpose = {
  name: string;
  note: string;
  width: number;
  height: number;
  unit: Unit;
  ppi: number;
};

export const purposes: readonly Purpose[] = [
  { name: "A4 sheet", note: "210 × 297 mm", width: 210, height: 297, unit: "mm", ppi: 300 },
  { name: "A3 sheet", note: "297 × 420 mm", width: 297, height: 420, unit: "mm", ppi: 300 },
  { name: "A5 sheet", note: "148 × 210 mm", width: 148, height: 210, unit: "mm", ppi: 300 },
  { name: "US letter", note: "8.5 × 11 in", width: 8.5, height: 11, unit: "in", ppi: 300 },
  { name: "US tabloid", note: "11 × 17 in", width: 11, height: 17, unit: "in", ppi: 300 },
  { name: "Postcard", note: "148 × 105 mm", width: 148, height: 105, unit: "mm", ppi: 300 },
  { name: "Poster", note: "500 × 700 mm", width: 500, height: 700, unit: "mm", ppi: 200 },
  {
    name: "Picture-book spread",
    note: "508 × 381 mm",
    width: 508,
    height: 381,
    unit: "mm",
    ppi: 300,
  },
  { name: "Comic page", note: "170 × 260 mm", width: 170, height: 260, unit: "mm", ppi: 600 },
  { name: "Wide frame", note: "2560 × 1080 px", width: 2560, height: 1080, unit: "px", ppi: 72 },
  { name: "Screen square", note: "2048 × 2048 px", width: 2048, height: 2048, unit: "px", ppi: 72 },
];
