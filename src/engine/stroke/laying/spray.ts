import { z } from "zod";
import { everySchema } from "./every";
import { type Setter, type Station } from "./station";

export const spraySchema = z.strictObject({
  kind: z.literal("spray"),
  /** Specks at each place. */
  specks: z.int().min(1).max(64),
  /** Radius of the cloud, in radii of the brush. */
  spread: z.number().min(0).max(4),
  /** Size of a speck, as a share of the brush's. */
  speck: z.number().min(0.002).max(1),
  /** How much specks differ in size: 0 all alike … 1 from nothing to twice. */
  uneven: z.number().min(0).max(1),
  /** Whether specks gather in the middle or fill the disc evenly. */
  cloud: z.enum(["middle", "even"]),
  every: everySchema,
});

export type Spray = z.infer<typeof spraySchema>;

/** Numbers drawn for one speck. */
const DRAWS = 8;
/** A normal cloud is held within this many of its deviations. */
const NEARLY_ALL = 0.9995;

export const sprayMost = ({ specks }: Spray): number => specks;

/** Distance from the middle 0…1 and a little more: uniform in area, or normal (Rayleigh). */
const distance = (cloud: Spray["cloud"], u: number): number =>
  cloud === "even" ? Math.sqrt(u) : 0.42 * Math.sqrt(-2 * Math.log(1 - u * NEARLY_ALL));

/** A cloud of specks around a station, drawn out along the mark's angle. */
export function spray(laying: Spray, station: Station, set: Setter): void {
  const { x, y, radius, chance, draw, stretch, angle } = station;
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  for (let i = 0; i < laying.specks; i++) {
    const own = draw + 16 + i * DRAWS;
    const turn = chance.at(own) * 2 * Math.PI;
    const far = distance(laying.cloud, chance.at(own + 1)) * laying.spread * radius;
    const along = Math.cos(turn) * far * stretch;
    const across = Math.sin(turn) * far;
    const size = laying.speck * radius * (1 + laying.uneven * (2 * chance.at(own + 2) - 1));
    set.speck(x + along * cos - across * sin, y + along * sin + across * cos, size, own + 3);
  }
}
