import { findBrush } from "../../engine/media";
import { BrushBox } from "../../storage/brushes";
import { type Database } from "../../storage/database";
import { type KeptHand, MOST_AMOUNTS } from "../../storage/records";
import { Shelf } from "../../storage/shelf";
import { remember } from "./session";
import { stages, type TableState, useTable } from "./table-store";

/** From keeping the hand to keeping it again, ms. */
const APART = 400;

/** What of the table is the hand: what would be painted with next. */
function handOf(state: TableState): KeptHand {
  const { brush, lastBrush, steady, colour, second, stage, kit, takes } = state;
  const { keepsPaint, shine, slabShown, slabWidth } = state;
  const amounts = Object.fromEntries(Object.entries(state.amounts).slice(-MOST_AMOUNTS));
  const looks = { keepsPaint, shine, slabShown, slabWidth };
  return { brush, lastBrush, steady, colour, second, stage, kit, takes, amounts, ...looks };
}

const parts = [
  "brush",
  "lastBrush",
  "steady",
  "colour",
  "second",
  "stage",
  "kit",
  "takes",
  "keepsPaint",
  "shine",
  "slabShown",
  "slabWidth",
  "amounts",
] as const satisfies readonly (keyof KeptHand & keyof TableState)[];

/** Keeps the hand for the next visit, from now on. Returns a function that keeps it once more and stops. */
export function keepHand(): () => void {
  let waiting: ReturnType<typeof setTimeout> | undefined;
  let isOld = false;
  const keep = (): void => {
    if (isOld) void remember({ hand: handOf(useTable.getState()) });
    isOld = false;
  };
  /** The first change is kept at once, those that follow it closely together. */
  const next = (): void => {
    waiting = isOld ? setTimeout(next, APART) : undefined;
    keep();
  };
  const stop = useTable.subscribe((now, before) => {
    if (parts.every((part) => now[part] === before[part])) return;
    isOld = true;
    if (waiting === undefined) next();
  });
  window.addEventListener("pagehide", keep);
  return () => {
    stop();
    clearTimeout(waiting);
    keep();
    window.removeEventListener("pagehide", keep);
  };
}

/** Whether this page's hand is its own already: then what is in store is older. */
let taken = false;

/** Takes up the hand as it was left, once a page. A brush that is gone is left where it is. */
export async function takeUpHand(db: Database): Promise<void> {
  if (taken) return;
  taken = true;
  const { hand } = await new Shelf(db).settings();
  if (!hand) return;
  const { stage, brush, lastBrush, kit, colour, ...rest } = hand;
  const known = await knownBrushes(db);
  const { chooseColour, set } = useTable.getState();
  chooseColour(colour);
  set({
    ...rest,
    stage: stages.find((one) => one === stage) ?? "Sketch",
    ...(known(brush) ? { brush, kit } : {}),
    ...(known(lastBrush) ? { lastBrush } : {}),
  });
}

async function knownBrushes(db: Database): Promise<(id: string) => boolean> {
  const { brushes } = await new BrushBox(db).list();
  return (id) => findBrush(id) !== undefined || brushes.some((own) => own.id === id);
}
