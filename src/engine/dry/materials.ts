import { type ContactInput } from "./material";

/** What all dry tips begin with. */
const plain: ContactInput = {
  kind: "contact",
  gives: 0.5,
  press: 0.8,
  foot: 0.2,
  soft: 0.2,
  steep: 1.2,
  valley: 0.4,
  dust: 0.06,
  most: 1,
  covers: 2.2,
  grit: 0.008,
  particle: "fine",
  tooth: 0.96,
  fineTooth: 0.28,
  catches: 0.6,
  sheds: 0,
  skips: 0,
  face: 0.15,
  streakWidth: 1.8,
  streakLength: 40,
  fills: 0.4,
  loose: 0.1,
  wax: 0,
  clear: 0,
  relief: 0,
  crumbs: 0,
  chatter: 0,
  shine: 0,
  flat: 0,
  shoulder: 0,
  leans: 0,
  rubs: 1,
  pulls: 1.6,
};

const made = (own: Partial<ContactInput>): ContactInput => ({ ...plain, ...own });

/** 10^(0.62 s) for s of 0…1, by squaring: 10^(0.62/8) eight times. */
function giving(s: number): number {
  const x = (0.62 * 2.302585 * s) / 8;
  const e = 1 + x + (x * x) / 2 + (x * x * x) / 6;
  const e2 = e * e;
  const e4 = e2 * e2;
  return e4 * e4;
}

/**
 * Graphite of a softness: 9H 0 · 2H 0.2 · HB 0.5 · 2B 0.68 · 6B 0.92 · 9B 1. A hard lead takes the
 * peaks and stays pale; a soft one gives more, reaches the valleys, and shines where it is pressed.
 */
export const graphite = (s: number): ContactInput =>
  made({
    gives: 0.215 * giving(s),
    press: 0.45 + 0.75 * s,
    foot: 0.26 - 0.1 * s,
    soft: 0.24,
    steep: 1.35 - 0.25 * s,
    valley: 0.55,
    dust: 0.09 + 0.1 * s,
    most: 0.42 + 0.68 * s,
    covers: 1.3 + 1.5 * s,
    grit: 0.006 + 0.008 * s,
    tooth: 0.96,
    fineTooth: 0.34,
    catches: 0.5,
    face: 0.12,
    fills: 0.35,
    sheds: 0.08 * s,
    loose: 0.05 + 0.2 * s,
    shine: 0.1,
    wears: 0.2 + 0.4 * s,
    shoulder: 0.55,
    leans: 0.75,
  });

export const colouredPencil = made({
  gives: 0.55,
  press: 0.85,
  foot: 0.24,
  steep: 1.2,
  valley: 0.45,
  dust: 0.06,
  most: 0.95,
  covers: 2.1,
  grit: 0.008,
  tooth: 0.95,
  fineTooth: 0.24,
  catches: 0.7,
  face: 0.15,
  fills: 0.5,
  loose: 0.02,
  wax: 0.5,
  clear: 0.7,
  wears: 0.25,
  shoulder: 0.55,
  leans: 0.75,
});

export const vineCharcoal = made({
  gives: 0.46,
  press: 0.34,
  foot: 0.18,
  soft: 0.24,
  steep: 1.25,
  valley: 0.3,
  dust: 0.17,
  most: 0.85,
  covers: 1.8,
  grit: 0.035,
  particle: "medium",
  tooth: 1.12,
  fineTooth: 0.24,
  catches: 0.8,
  face: 0.6,
  streakWidth: 1.6,
  streakLength: 45,
  fills: 0.4,
  sheds: 0.5,
  loose: 0.8,
});

export const compressedCharcoal = made({
  gives: 0.74,
  press: 1.2,
  foot: 0.18,
  soft: 0.26,
  steep: 1.2,
  valley: 0.55,
  dust: 0.19,
  most: 1.25,
  covers: 3.2,
  grit: 0.02,
  tooth: 1.15,
  fineTooth: 0.2,
  catches: 0.8,
  face: 0.55,
  streakWidth: 1.5,
  streakLength: 70,
  fills: 0.4,
  sheds: 0.35,
  loose: 0.4,
});

export const chalkStick = made({
  gives: 0.75,
  press: 0.3,
  foot: 0.34,
  soft: 0.14,
  steep: 1.25,
  valley: 0.25,
  dust: 0.03,
  most: 0.8,
  covers: 2.6,
  grit: 0.07,
  tooth: 0.85,
  fineTooth: 0.55,
  catches: 1,
  face: 0.8,
  streakWidth: 1.5,
  streakLength: 40,
  fills: 0.4,
  sheds: 0.4,
  loose: 0.5,
  flat: 0.5,
  crumbs: 0.2,
});

export const softPastel = made({
  gives: 1.35,
  press: 0.9,
  foot: 0.16,
  soft: 0.2,
  steep: 1.1,
  valley: 0.4,
  dust: 0.16,
  most: 1.6,
  covers: 3,
  grit: 0.05,
  particle: "medium",
  tooth: 0.95,
  fineTooth: 0.3,
  catches: 0.7,
  face: 0.45,
  streakWidth: 2.2,
  streakLength: 60,
  fills: 0.4,
  sheds: 0.6,
  loose: 0.65,
  relief: 0.1,
  crumbs: 0.35,
});

/** Harder pressed, with more binder: it gives less, and draws a line on its edge. */
export const hardPastel = made({
  ...softPastel,
  gives: 0.8,
  press: 0.7,
  foot: 0.24,
  dust: 0.08,
  most: 1.1,
  covers: 2.8,
  grit: 0.03,
  sheds: 0.25,
  loose: 0.4,
  relief: 0.05,
  crumbs: 0.1,
});

/** Earth and black, pressed square: between charcoal and chalk. */
export const conteStick = made({
  ...compressedCharcoal,
  gives: 0.7,
  press: 0.85,
  foot: 0.26,
  dust: 0.08,
  most: 1.05,
  covers: 2.9,
  grit: 0.02,
  face: 0.4,
  sheds: 0.12,
  loose: 0.25,
  flat: 0.3,
});

export const oilPastel = made({
  gives: 1.5,
  press: 1,
  foot: 0.42,
  soft: 0.09,
  steep: 0.9,
  valley: 0.25,
  dust: 0,
  most: 1.7,
  covers: 3.2,
  grit: 0.04,
  particle: "coarse",
  tooth: 1,
  fineTooth: 0.1,
  catches: 1.4,
  skips: 0.9,
  face: 0.75,
  streakWidth: 2.4,
  streakLength: 80,
  fills: 0.7,
  loose: 0,
  wax: 1,
  relief: 0.3,
  chatter: 0.22,
  flat: 0.6,
  drags: 0.08,
  melts: 0.15,
});

export const waxCrayon = made({
  gives: 0.95,
  press: 0.38,
  foot: 0.46,
  soft: 0.08,
  steep: 0.8,
  valley: 0.15,
  dust: 0,
  most: 0.75,
  covers: 2.5,
  grit: 0.02,
  particle: "medium",
  tooth: 1,
  fineTooth: 0.14,
  catches: 1.5,
  skips: 1.1,
  face: 0.6,
  streakWidth: 1.8,
  streakLength: 60,
  fills: 0.6,
  loose: 0,
  wax: 1,
  clear: 0.5,
  relief: 0.14,
  chatter: 0.3,
  flat: 0.4,
});

/** A lump of rubber that is kneaded: it lifts what it is pressed on, the peaks first. */
export const kneadedRubber = made({
  foot: 0.2,
  soft: 0.2,
  tooth: 1.05,
  fineTooth: 0.3,
  pulls: 1.6,
});

/** Rubber that is rubbed: it reaches the valleys too. */
export const vinylRubber = made({
  foot: 0.05,
  soft: 0.4,
  tooth: 0.5,
  fineTooth: 0.1,
  flat: 0.6,
  face: 0.1,
  pulls: 7,
});

/** An eraser in wood: a fine hard point. */
export const eraserPoint = made({ ...vinylRubber, tooth: 0.7, pulls: 5 });

/** A blade: it takes wax and all. */
export const scraper = made({
  foot: 0,
  soft: 0.3,
  tooth: 0.8,
  fineTooth: 0.2,
  flat: 1,
  face: 0.35,
  streakWidth: 1.4,
  streakLength: 120,
  pulls: 9,
});
