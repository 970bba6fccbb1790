import { within } from "../../compose/tree";
import { Picture } from "../../picture/picture";
import { type TiffPage } from "./tiff";

/**
 * The picture as seen and then each of its layers alone, from the lowest, as pages; groups as one. Hidden layers,
 * and those that only change what is below them, have no page. A clipped layer is cut by nothing here.
 */
export function layerPages(picture: Picture): TiffPage[] {
  const { structure } = picture;
  const alone = structure.layers.filter(
    ({ group, visible, kind, holds }) =>
      group === null && visible && kind !== "adjustment" && !holds,
  );
  const pages = alone.map(({ id, name }): TiffPage => {
    const ids = new Set(within(structure.layers, id));
    const page = new Picture(picture.header, picture.planes);
    page.structure = {
      ...structure,
      layers: structure.layers
        .filter((layer) => ids.has(layer.id))
        .map((layer) =>
          layer.id === id ? { ...layer, opacity: 1, blend: "normal", clip: false } : layer,
        ),
    };
    return { picture: page, name };
  });
  return [{ picture, name: "All layers" }, ...pages];
}
