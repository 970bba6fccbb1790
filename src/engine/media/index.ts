import { type Picture } from "../picture/picture";
import { type Brush } from "../stroke/brush";
import { charcoals } from "./charcoals";
import { hair } from "./hair";
import { inks } from "./inks";
import { markers } from "./markers";
import { pastels } from "./pastels";
import { pencils } from "./pencils";
import { rounds } from "./rounds";
import { strewnBrushes } from "./strewn";

/** Every brush that ships, kit by kit. */
export const brushes: readonly Brush[] = [
  ...pencils,
  ...charcoals,
  ...pastels,
  ...inks,
  ...markers,
  ...hair,
  ...rounds,
  ...strewnBrushes,
];

const byId = new Map(brushes.map((brush) => [brush.id, brush]));

/** A brush that ships. */
export const findBrush = (id: string): Brush | undefined => byId.get(id);

/** The brush that a name means in a picture: its own, else one that ships. */
export const brushOf = (picture: Picture, id: string): Brush | undefined =>
  (Object.hasOwn(picture.structure.brushes, id) ? picture.structure.brushes[id] : undefined) ??
  findBrush(id);
