import { z } from "zod";

/** How far outside the sheet a guide may lie, px: vanishing points often do. */
const REACH = 262_144;
const place = z.strictObject({
  x: z.number().min(-REACH).max(REACH),
  y: z.number().min(-REACH).max(REACH),
});
export type Place = z.infer<typeof place>;

const TURN = 2 * Math.PI;
const angle = z.number().min(-TURN).max(TURN);

/** Lines that strokes may follow. They lie over the picture and are never exported. */
export const guideSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("vanishing points"),
    /** The first two lie on the horizon. */
    points: z.array(place).min(1).max(3),
  }),
  z.strictObject({ kind: z.literal("straightedge"), from: place, to: place }),
  /** Lines that all go one way, radians clockwise from the right. */
  z.strictObject({ kind: z.literal("parallel"), angle, at: place }),
  z.strictObject({
    kind: z.literal("ellipse"),
    at: place,
    across: z.number().min(1).max(REACH),
    down: z.number().min(1).max(REACH),
    angle,
  }),
]);
export type Guide = z.infer<typeof guideSchema>;

export const MOST_GUIDES = 12;
export const guidesSchema = z.array(guideSchema).max(MOST_GUIDES);

/** Direction of the horizon, radians: from the first vanishing point to the second, or level. */
export function horizonOf(points: readonly Place[]): number {
  const [a, b] = points;
  return a && b ? Math.atan2(b.y - a.y, b.x - a.x) : 0;
}

const scaledPlace = ({ x, y }: Place, by: number): Place => ({ x: x * by, y: y * by });

/** The same guide on a sheet `by` times as large. */
export function scaledGuide(guide: Guide, by: number): Guide {
  switch (guide.kind) {
    case "vanishing points":
      return { ...guide, points: guide.points.map((point) => scaledPlace(point, by)) };
    case "straightedge":
      return { ...guide, from: scaledPlace(guide.from, by), to: scaledPlace(guide.to, by) };
    case "parallel":
      return { ...guide, at: scaledPlace(guide.at, by) };
    case "ellipse": {
      const { at, across, down } = guide;
      return { ...guide, at: scaledPlace(at, by), across: across * by, down: down * by };
    }
  }
}
