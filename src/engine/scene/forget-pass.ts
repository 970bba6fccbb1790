import { type Picture } from "../picture/picture";

/** A layer that a hand has changed is not the scene's any more: it is never painted over. */
export function forgetPass(picture: Picture, layer: string): void {
  const { layers } = picture.structure;
  if (!layers.some(({ id, pass }) => id === layer && pass)) return;
  picture.structure = {
    ...picture.structure,
    layers: layers.map((one) => {
      if (one.id !== layer) return one;
      const { pass: _gone, ...rest } = one;
      return rest;
    }),
  };
}
