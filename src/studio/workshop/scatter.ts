import { type Drive, type Driver, type Parameter } from "../../engine/stroke/drives";

/** By chance, as far to one side as to the other. */
const bothWays = (amount: number): Drive => ({
  by: "chance of a mark",
  how: "add",
  over: 20,
  curve: [
    [0, -amount],
    [1, amount],
  ],
});

/** How far chance alone throws to either side; null where that is set in another way. */
function thrown({ base, drives }: Parameter): number | null {
  if (drives.length === 0) return base === 0 ? 0 : null;
  const [first] = drives;
  if (base !== 0 || first?.by !== "chance of a mark" || first.how !== "add") return null;
  const [from, to, more] = first.curve;
  if (!from || !to || more || from[0] !== 0 || to[0] !== 1 || from[1] !== -to[1]) return null;
  return to[1];
}

/** A parameter as an amount of scatter and what drives that; null where it is more than such. */
export function scatterOf(value: Parameter): { amount: number; rest: Drive[] } | null {
  const amount = thrown(value);
  if (amount === null) return null;
  return { amount, rest: value.drives.slice(1) };
}

/** The parameter that scatters by so much, driven by the rest. */
export const scattered = (amount: number, rest: readonly Drive[]): Parameter => ({
  base: 0,
  drives: amount === 0 && rest.length === 0 ? [] : [bothWays(amount), ...rest],
});

const order: readonly Driver[] = ["pressure", "speed", "tilt", "chance of a mark"];

/**
 * A driver that changes something at once: it multiplies what there is, and adds where that is nothing.
 * @param reach how far it adds
 */
export function newDrive(value: Parameter, reach: number): Drive {
  const used = new Set(value.drives.map(({ by }) => by));
  const by = order.find((one) => !used.has(one)) ?? "distance";
  const adds = value.base === 0 && value.drives.length === 0;
  return {
    by,
    how: adds ? "add" : "multiply",
    over: 20,
    curve: [
      [0, 0],
      [1, adds ? reach : 1],
    ],
  };
}
