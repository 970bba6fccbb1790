import { type Picture } from "../picture/picture";
import { type Brush } from "../stroke/brush";
import { charcoals } from "./charcoals";
import { hair } from "./hair";
import { gouaches } from "./gouaches";
import { inks } from "./inks";
import { markers } from "./markers";
import { oils } from "./oils";
import { pastels } from "./pastels";
import { pencils } from "./pencils";
import { powderTools } from "./powder-tools";
import { rounds } from "./rounds";
import { strewnBrushes } from "./strewn";
import { waters } from "./waters";

/** Every brush that ships, kit by kit. */
export const brushes: readonly Brush[] = [
  ...pencils,
  ...charcoals,
  ...pastels,
  ...powderTools,
  ...oils,
  ...gouaches,
  ...waters,
  ...inks,
  ...markers,
  ...hair,
  ...rounds,
  ...strewnBrushes,
];

const byId = new Map(brushes.map((brush) => [brush.id, brush]));

/** A brush that ships. */
export const findBrush = (id: string): Brush | undefined => byId.get(id);

/** Brushes that a picture brings along and that do not ship, or not in that form. */
export const brushesOnlyIn = ({ structure }: Picture): Brush[] =>
  Object.values(structure.brushes).filter((brush) => !shipsSo(brush));

const shipped = new WeakMap<Brush, boolean>();

function shipsSo(brush: Brush): boolean {
  const known = shipped.get(brush);
  if (known !== undefined) return known;
  const ships = findBrush(brush.id);
  const so = ships !== undefined && JSON.stringify(ships) === JSON.stringify(brush);
  shipped.set(brush, so);
  return so;
}

/** The brush that a name means in a picture: its own, else one that ships. */
export const brushOf = (picture: Picture, id: string): Brush | undefined =>
  (Object.hasOwn(picture.structure.brushes, id) ? picture.structure.brushes[id] : undefined) ??
  findBrush(id);
