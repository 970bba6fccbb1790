import { type Brush } from "../stroke/brush";
import { inks } from "./ink";
import { pencils } from "./pencil";
import { rounds } from "./soft";

/** Every brush that ships, kit by kit. */
export const brushes: readonly Brush[] = [...pencils, ...inks, ...rounds];

const byId = new Map(brushes.map((brush) => [brush.id, brush]));

export const findBrush = (id: string): Brush | undefined => byId.get(id);
