import { newHeader } from "../picture/header";
import { newLayer, Picture } from "../picture/picture";

/** The planes of the slab, kept with those of the picture's layers under this name. It is no layer. */
export const SLAB = "(slab)";

/** Its sides, px: strokes on it are in px of the picture, so a brush mixes as wide as it paints. */
export const SLAB_WIDTH = 960;
export const SLAB_HEIGHT = 720;
/** What is bare of it: warm and light, so that thin paint is seen as it will be. */
export const SLAB_GROUND = "#d9d4ca";

const slabs = new WeakMap<Picture, Picture>();

/**
 * The slab of a picture: a surface to mix on, of a size of its own. It shares the picture's planes, so that
 * what is on it is taken back, kept and repeated with everything else.
 */
export function slabOf(picture: Picture): Picture {
  const known = slabs.get(picture);
  if (known) return known;
  const header = newHeader({
    width: SLAB_WIDTH,
    height: SLAB_HEIGHT,
    ground: SLAB_GROUND,
    paper: { kind: "board", scale: 1 },
  });
  const slab = new Picture(header, picture.planes);
  slab.structure = { ...slab.structure, layers: [newLayer(SLAB, "Slab")] };
  slabs.set(picture, slab);
  return slab;
}
