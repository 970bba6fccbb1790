import { type Picture } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { type OwnSet, type Strew } from "./strew";

/** How a set is strewn until the hand says otherwise. */
export type Manner = Omit<Strew, "set" | "only" | "depth">;

const manner = (own: Partial<Manner>): Manner => ({
  gap: 0.7,
  spread: 1.2,
  sizes: 0.5,
  press: 0.4,
  turn: "any",
  turns: 0.2,
  flips: true,
  tint: 0,
  strays: 0.35,
  fades: 0,
  blurs: 0,
  ...own,
});

export type MadeSet = {
  name: string;
  /** How many pictures it has: see `pictures/made.ts`. */
  pictures: number;
  size: number;
  /** Seen on dark alone. */
  pale?: true;
  manner: Manner;
};

/** The sets that come with Pampas; a set's number is its place here, for ever. */
export const madeSets: readonly MadeSet[] = [
  { name: "Fallen leaves", pictures: 6, size: 70, manner: manner({}) },
  { name: "Needles", pictures: 4, size: 60, manner: manner({ gap: 0.45 }) },
  {
    name: "Flakes",
    pictures: 6,
    pale: true,
    size: 26,
    manner: manner({ spread: 3, gap: 1.2, sizes: 0.8, strays: 0, fades: 0.4, blurs: 0.3 }),
  },
  { name: "Blossoms", pictures: 5, size: 64, manner: manner({ strays: 0.2 }) },
  {
    name: "Pebbles",
    pictures: 5,
    size: 50,
    manner: manner({ turn: "upright", turns: 0.12, spread: 0.8, strays: 0.3 }),
  },
  {
    name: "Sparks",
    pictures: 5,
    pale: true,
    size: 36,
    manner: manner({
      turn: "along",
      turns: 0.25,
      spread: 1.6,
      sizes: 0.8,
      strays: 0.1,
      fades: 0.5,
    }),
  },
  {
    name: "Birds",
    pictures: 5,
    size: 44,
    manner: manner({ turn: "upright", turns: 0.1, gap: 1.6, spread: 2, sizes: 0.6, strays: 0 }),
  },
  {
    name: "Smoke puffs",
    pictures: 4,
    pale: true,
    size: 130,
    manner: manner({ gap: 0.3, spread: 0.25, sizes: 0.4, strays: 0.1, fades: 0.6 }),
  },
  {
    name: "Steam",
    pictures: 4,
    pale: true,
    size: 180,
    manner: manner({ turn: "upright", turns: 0.08, gap: 0.3, spread: 0.2, strays: 0, fades: 0.5 }),
  },
  {
    name: "Rain",
    pictures: 3,
    pale: true,
    size: 80,
    manner: manner({
      turn: "upright",
      turns: 0.02,
      gap: 0.4,
      spread: 2,
      sizes: 0.6,
      strays: 0,
      flips: false,
      fades: 0.6,
    }),
  },
  {
    name: "Tickets",
    pictures: 4,
    size: 90,
    manner: manner({ flips: false, strays: 0.15 }),
  },
  {
    name: "Stars",
    pictures: 5,
    pale: true,
    size: 22,
    manner: manner({
      turn: "upright",
      turns: 0.04,
      gap: 2,
      spread: 5,
      sizes: 0.9,
      strays: 0.3,
      fades: 0.6,
    }),
  },
];

/** @throws Refusal where the picture holds no such set */
export function ownSetOf({ structure }: Picture, number: number): OwnSet {
  const own = structure.strewn?.find((one) => one.number === number);
  if (!own) throw new Refusal(`this picture holds no set ${number} of pieces`);
  return own;
}

/** How many pictures a set has. @throws Refusal where there is no such set */
export const picturesIn = (picture: Picture, number: number): number =>
  madeSets[number]?.pictures ?? ownSetOf(picture, number).pictures.length;
