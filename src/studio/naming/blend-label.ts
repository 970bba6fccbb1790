import { type BlendMode } from "../../engine/compose/blend-modes";

/** A blend mode as it is called on the table. */
export const blendLabel = (mode: BlendMode): string => {
  const words = mode.replace("-", " ").replace("color", "colour");
  return words.charAt(0).toUpperCase() + words.slice(1);
};
