import { type Layer, newLayer } from "../../../engine/picture/picture";

/** The layer that shows a change before it is made. */
export const TRIED = "(trying)";

/**
 * The layers as they would look with a change on some of them: each lies in a group of its own
 * as it lay before, with the change over it inside the group, held to the selection.
 */
export function layersWith(
  layers: readonly Layer[],
  chosen: readonly string[],
  isSelected: boolean,
  change: (layer: Layer) => Partial<Layer>,
): readonly Layer[] {
  return layers.flatMap((one): Layer[] => {
    if (!chosen.includes(one.id) || one.kind !== "paint") return [one];
    const group = `${TRIED} ${one.id}`;
    return [
      { ...one, group, opacity: 1, blend: "normal", clip: false, contour: null, mask: null },
      {
        ...newLayer(TRIED, "Trying"),
        group,
        clip: true,
        mask: isSelected ? { on: true, linked: true } : null,
        ...change(one),
      },
      { ...one, id: group, kind: "group", tint: null },
    ];
  });
}
