import { chalkStick, compressedCharcoal, vineCharcoal } from "../dry/materials";
import { type Brush } from "../stroke/brush";
import { soluble } from "./brush-making";
import { dry, lead, side, stick } from "./dry-making";

const KIT = "Charcoal and chalk";

export const charcoals: readonly Brush[] = [
  // A burnt twig: faint, dusty, and a finger takes it away again.
  dry(
    {
      id: "charcoal-vine",
      name: "Vine charcoal",
      kit: KIT,
      size: 22,
      tags: ["dry", "soft", "broad"],
      ...soluble(0.5),
    },
    vineCharcoal,
    stick,
  ),
  // Pressed charcoal: black as velvet.
  dry(
    {
      id: "charcoal-stick",
      name: "Charcoal stick",
      kit: KIT,
      size: 26,
      tags: ["dry", "dark"],
      ...soluble(0.3),
    },
    compressedCharcoal,
    stick,
  ),
  dry(
    {
      id: "charcoal-pencil",
      name: "Charcoal pencil",
      kit: KIT,
      size: 8,
      tags: ["dry", "dark"],
      ...soluble(0.3),
    },
    { ...compressedCharcoal, face: 0.25, gives: 0.9, leans: 0.75, shoulder: 0.4 },
    lead,
  ),
  dry(
    {
      id: "charcoal-side",
      name: "Charcoal on its side",
      kit: KIT,
      size: 120,
      tags: ["dry", "broad"],
      ...soluble(0.3),
    },
    { ...compressedCharcoal, gives: 0.6, press: 0.7 },
    side(6),
  ),
  dry(
    { id: "chalk", name: "Chalk", kit: KIT, size: 20, tags: ["dry", "opaque"], ...soluble(0.4) },
    chalkStick,
    stick,
  ),
  dry(
    {
      id: "chalk-square",
      name: "Square chalk",
      kit: KIT,
      size: 56,
      tags: ["dry", "broad", "opaque"],
      ...soluble(0.4),
    },
    { ...chalkStick, flat: 0.8 },
    side(3.5),
  ),
];
