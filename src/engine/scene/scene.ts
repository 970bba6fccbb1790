import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { MOST_SOLIDS, REACH, type Solid, solidSchema } from "./solid";

const metres = z.number().min(-REACH).max(REACH);
const px = z.number().min(-262_144).max(262_144);

export const cameraSchema = z.strictObject({
  /** Where the eye is, and what it looks at, m. */
  at: z.tuple([metres, metres, metres]),
  to: z.tuple([metres, metres, metres]),
  /** Focal length, mm, on a frame 36 mm wide. */
  lens: z.number().min(8).max(800),
  /** How it is held, radians clockwise. */
  roll: z.number().min(-Math.PI).max(Math.PI),
  /** Its frame on the sheet: the middle, and how wide it is, px. */
  frame: z.strictObject({ x: px, y: px, width: z.number().min(1).max(262_144) }),
});
export type Camera = Readonly<z.infer<typeof cameraSchema>>;

export const lightSchema = z.strictObject({
  /** Where the sun stands in the world, radians: round it from the right over the front, and above the ground. */
  azimuth: z.number().min(-Math.PI).max(Math.PI),
  height: z
    .number()
    .min(-Math.PI / 2)
    .max(Math.PI / 2),
  sun: hexColour,
  strength: z.number().min(0).max(2),
  /** What comes from everywhere, more from above. */
  fill: hexColour,
  fillStrength: z.number().min(0).max(1),
  shadows: z.boolean(),
});
export type SceneLight = Readonly<z.infer<typeof lightSchema>>;

export const sceneSchema = z.strictObject({
  solids: z.array(solidSchema).max(MOST_SOLIDS),
  camera: cameraSchema,
  light: lightSchema,
  /** The colour of the ground; null: there is none. */
  ground: hexColour.nullable(),
});
export type Scene = Readonly<
  Omit<z.infer<typeof sceneSchema>, "solids"> & { solids: readonly Solid[] }
>;

/** A frame of film, mm across: focal lengths are told on it. */
export const FILM = 36;

/** A scene with nothing in it: a standing person's eye, looking slightly down at a place eight metres off. */
export const newScene = (width: number, height: number): Scene => ({
  solids: [],
  camera: {
    at: [0, 1.7, 8],
    to: [0, 1, 0],
    lens: 35,
    roll: 0,
    frame: { x: width / 2, y: height / 2, width },
  },
  light: {
    azimuth: 2.3,
    height: 0.7,
    sun: "#fff1dc",
    strength: 0.85,
    fill: "#aebfd6",
    fillStrength: 0.45,
    shadows: true,
  },
  ground: "#a9a49a",
});

/** The pictures that a scene gives, as layers. */
export const passKinds = ["colour", "line", "depth", "id", "normal"] as const;
export type PassKind = (typeof passKinds)[number];

/** Of a layer that a scene painted, until a hand changes it. */
export const passSchema = z.strictObject({ kind: z.enum(passKinds) });
export type Pass = Readonly<z.infer<typeof passSchema>>;
