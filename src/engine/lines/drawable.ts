import { type Brush, type StrokeMode } from "../stroke/brush";

/** Whether lines can be drawn with a brush again and again: its marks follow from the curve and the hand alone. */
export function drawsLines({ laying, does, lays }: Brush): boolean {
  if (does !== null || lays !== "normal") return false;
  switch (laying.kind) {
    case "line":
    case "ribbon":
    case "hairs":
    case "strands":
    case "contact":
      return true;
    case "marks":
    case "spray":
      return laying.every === null;
    case "weave":
    case "bristles":
    case "knife":
    case "wash":
      return false;
  }
}

/** Whether a brush's line is one clean shape that its curve and its width say wholly. */
export const isClean = ({ laying, colour, overtip, flow, grain }: Brush): boolean =>
  laying.kind === "line" &&
  colour === null &&
  overtip === null &&
  grain === null &&
  flow.drives.length === 0;

/** Why a stroke cannot be drawn on a line layer; null where it can. */
export function whyNoLine(brush: Brush, mode: StrokeMode, layer: string): string | null {
  if (mode === "blend")
    return `“${layer}” holds lines, and lines are not blended. Turn it into paint (layer menu), or blend on a layer above.`;
  if (mode === "paint" && !drawsLines(brush))
    return `“${brush.name}” cannot draw lines that stay editable. Choose a pen, a pencil or another dry brush, or paint on a layer above “${layer}”.`;
  return null;
}
