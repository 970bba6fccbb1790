import { z } from "zod";
import { hexColour } from "../colour/srgb";

/** Farthest from the middle of a scene, m. */
export const REACH = 100_000;
const metres = z.number().min(-REACH).max(REACH);
const place = z.tuple([metres, metres, metres]);
const side = z.number().min(0.001).max(REACH);
const HALF_TURN = Math.PI;

/** The shapes that a scene is blocked out with. Each stands on its foot and is one high, wide and deep before it is sized. */
export const solidKinds = [
  "box",
  "ball",
  "cylinder",
  "cone",
  "wedge",
  "plane",
  "tube",
  "mesh",
] as const;
export type SolidKind = (typeof solidKinds)[number];

export const solidId = z.string().min(1).max(64);
export const MOST_SOLIDS = 500;
/** Triangles of a brought-in mesh at most. */
export const MOST_FACES = 60_000;

/** A shape that was brought in: corners and triangles, numbers in little-endian base64. */
export const meshSchema = z.strictObject({
  /** f32 x y z of each corner, in a box one wide and deep about 0, and one high from 0. */
  corners: z
    .base64()
    .min(4)
    .max(MOST_FACES * 3 * 12 * 2),
  /** u32 of the three corners of each triangle, to the left as seen from outside. */
  faces: z
    .base64()
    .min(4)
    .max(MOST_FACES * 12 * 2),
});

/** One of a row of copies: each is moved and turned on from the one before. */
export const rowSchema = z.strictObject({
  count: z.int().min(2).max(100),
  step: place,
  /** Radians about the upright through `about`. */
  turn: z.number().min(-HALF_TURN).max(HALF_TURN),
  about: place,
});

export const solidSchema = z.strictObject({
  id: solidId,
  name: z.string().min(1).max(60),
  kind: z.enum(solidKinds),
  /** Where its foot stands, m: right, up, toward the painter. */
  at: place,
  /** How it is turned: a quaternion x y z w. */
  turn: z
    .tuple([
      z.number().min(-1).max(1),
      z.number().min(-1).max(1),
      z.number().min(-1).max(1),
      z.number().min(-1).max(1),
    ])
    .refine((turn) => turn.reduce((sum, v) => sum + v * v, 0) > 0.01, {
      message: "a turn has a length",
    }),
  /** Width, height and depth, m; of a tube the first is how thick it is. */
  size: z.tuple([side, side, side]),
  /** How wide its head is in parts of its foot. */
  taper: z.number().min(0).max(4).default(1),
  /** How far its head leans over, radians: its height becomes an arc. */
  bend: z.number().min(-HALF_TURN).max(HALF_TURN).default(0),
  /** How far its head is turned against its foot, radians. */
  twist: z
    .number()
    .min(-2 * HALF_TURN)
    .max(2 * HALF_TURN)
    .default(0),
  /** What lies above a plane is cut off; null: nothing is. */
  cut: z
    .strictObject({
      /** Where the plane crosses the middle, in parts of the height. */
      at: z.number().min(0).max(1),
      /** How it slopes, and toward where, radians. */
      slope: z.number().min(-1.4).max(1.4),
      toward: z.number().min(-HALF_TURN).max(HALF_TURN),
    })
    .nullable()
    .default(null),
  colour: hexColour,
  /** Of a tube: where it goes, m from its foot. */
  path: z.array(place).min(2).max(64).nullable().default(null),
  mesh: meshSchema.nullable().default(null),
  /** Mirrored left and right. */
  flip: z.boolean().default(false),
  row: rowSchema.nullable().default(null),
  /** Solids of one group are chosen together. */
  group: solidId.nullable().default(null),
});
export type Solid = Readonly<z.infer<typeof solidSchema>>;
export type SolidInput = z.input<typeof solidSchema>;

/** Why a solid cannot be; null where it can. */
export function faultOf({ kind, path, mesh, name }: Solid): string | null {
  if (kind === "tube" && !path) return `the tube “${name}” needs a path`;
  if (kind === "mesh" && !mesh) return `“${name}” needs its corners and faces`;
  return null;
}

/** Whether it has no hollow that it could throw its own shadow into. */
export const isConvex = ({ kind, bend, twist }: Solid): boolean =>
  kind !== "tube" && kind !== "mesh" && bend === 0 && twist === 0;

/** Whether its faces are seen from both sides. */
export const isOpen = ({ kind }: Solid): boolean => kind === "plane" || kind === "mesh";
