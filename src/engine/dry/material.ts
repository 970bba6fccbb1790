import { z } from "zod";
import { evaluator, type Parameter, parameter, type Reading } from "../stroke/drives";

const share = z.number().min(0).max(1);

/**
 * What of a material may change along a stroke, with its bounds: how the tip meets the paper. The rest
 * is what the paper answers when the stroke is laid, once, so it is the same all along.
 */
const bounds = {
  gives: [0.02, 4],
  catches: [0, 2],
  skips: [0, 2],
  sheds: [0, 1],
  face: [0, 1],
  flat: [0, 1],
  chatter: [0, 1],
  shoulder: [0, 1],
  leans: [0, 1],
  wears: [0, 1],
  pulls: [0, 12],
} as const;

export type DrivenName = keyof typeof bounds;
export const drivenNames = Object.keys(bounds) as DrivenName[];

/** A parameter that may be written as its base alone. */
const driven = (name: DrivenName) =>
  z.union([
    z
      .number()
      .min(bounds[name][0])
      .max(bounds[name][1])
      .transform((base): Parameter => ({ base, drives: [] })),
    parameter(bounds[name][0], bounds[name][1]),
  ]);

/**
 * A dry tip rubbed over the paper's tooth: graphite, charcoal, chalk, pastel, wax. Where it touched is
 * gathered over the stroke, and the paper answers once. The brush's size, stretch and angle shape the
 * tip, its flow is what of the pen's pressure comes down on the paper. Lengths in px at 300 ppi.
 */
export const contactSchema = z.strictObject({
  kind: z.literal("contact"),
  /** How much comes off at a touch. */
  gives: driven("gives"),
  /** What pressing adds, valleys and all. */
  press: z.number().min(0).max(2),
  /** The height from which the tip touches, 0…1 of the tooth. */
  foot: z.number().min(0).max(0.8),
  /** How softly touching begins there. */
  soft: z.number().min(0.02).max(0.5),
  /** How much more the peaks take: 1 as they stand, less evens them out. */
  steep: z.number().min(0.5).max(1.6),
  /** What of the press reaches the deepest valley. */
  valley: share,
  /** What falls everywhere the tip goes. */
  dust: z.number().min(0).max(0.6),
  /** Mass that the paper holds. */
  most: z.number().min(0.1).max(1.9),
  /** How a mass covers. */
  covers: z.number().min(0.2).max(6),
  /** How uneven the particles are. */
  grit: z.number().min(0).max(0.2),
  /** How large they are, px. */
  particle: z.enum(["fine", "medium", "coarse"]),
  /** What of the paper's broad tooth the tip follows, and of its fine one. */
  tooth: z.number().min(0).max(1.5),
  fineTooth: z.number().min(0).max(1.5),
  /** What slopes that face the travel catch. */
  catches: driven("catches"),
  /** Dust that it sheds beyond its edge. */
  sheds: driven("sheds").default({ base: 0, drives: [] }),
  /** What it skips behind heights that it ran over. */
  skips: driven("skips"),
  /** How uneven the tip's face is, and its streaks: px across and along. */
  face: driven("face"),
  streakWidth: z.number().min(0.5).max(20),
  streakLength: z.number().min(4).max(400),
  /** How far valleys are filled by what lies there. */
  fills: share,
  /** Share that lies loose and can be wiped away. */
  loose: share,
  /** Share that is wax: it keeps off what comes later. */
  wax: share,
  /** How far what lies below shows through. */
  clear: share,
  /** Light on what stands up. */
  relief: z.number().min(0).max(1),
  crumbs: share,
  /** How far a waxy tip sticks and slips. */
  chatter: driven("chatter"),
  /** Whether a heavy press polishes it. */
  shine: z.number().min(0).max(0.3),
  /** 0 a rounded tip … 1 one worn flat. */
  flat: driven("flat"),
  /** How fast an edge is worn off as it is drawn with; the barrel, turned, brings a fresh one. */
  wears: driven("wears").default({ base: 0, drives: [] }),
  /** How much lighter the shoulder of a lying lead is than its point, and how far that lies off the pen. */
  shoulder: driven("shoulder"),
  leans: driven("leans"),
  /** In Blend: how much it takes up and gives. */
  rubs: z.number().min(0).max(3).default(1),
  /** In Blend: how far wax gives way as loose powder does; left out, hardly. */
  melts: share.optional(),
  /** In Paint: how far a waxy tip takes along the wax that it draws over; left out, not at all. */
  drags: share.optional(),
  /** In Lift: what it pulls off; left out, as a kneaded lump does. */
  pulls: driven("pulls").default({ base: 1.6, drives: [] }),
});

export type Contact = z.infer<typeof contactSchema>;
/** As it may be written: numbers for what nothing drives. */
export type ContactInput = z.input<typeof contactSchema>;

/** What a material is at one place of a stroke. */
export type Touch = Record<DrivenName, number>;

/**
 * Reads what a material is at a place. The same object is filled in again at every call.
 * @param salt first of as many salts as there are driven names
 */
export function touchOf(contact: Contact, salt: number): (reading: Reading) => Touch {
  const now = Object.fromEntries(drivenNames.map((name) => [name, 0])) as Touch;
  const asked = drivenNames.map((name, i) => evaluator(contact[name], salt + i));
  return (reading) => {
    drivenNames.forEach((name, i) => {
      const [least, most] = bounds[name];
      now[name] = Math.min(most, Math.max(least, (asked[i] as (r: Reading) => number)(reading)));
    });
    return now;
  };
}
