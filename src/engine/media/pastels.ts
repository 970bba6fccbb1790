import { conteStick, hardPastel, oilPastel, softPastel, waxCrayon } from "../dry/materials";
import { type Brush } from "../stroke/brush";
import { soluble } from "./brush-making";
import { dry, side, stick } from "./dry-making";

const KIT = "Pastel and wax";

export const pastels: readonly Brush[] = [
  // Almost pure pigment: it crumbles, and pressure fills every valley.
  dry(
    {
      id: "pastel-soft",
      name: "Soft pastel",
      kit: KIT,
      size: 34,
      tags: ["dry", "opaque", "colour"],
      ...soluble(0.45),
    },
    softPastel,
    stick,
  ),
  dry(
    {
      id: "pastel-side",
      name: "Soft pastel on its side",
      kit: KIT,
      size: 110,
      tags: ["dry", "broad", "colour"],
      ...soluble(0.45),
    },
    { ...softPastel, gives: 1, press: 0.6 },
    side(5),
  ),
  dry(
    {
      id: "pastel-hard",
      name: "Hard pastel",
      kit: KIT,
      size: 12,
      tags: ["dry", "opaque"],
      ...soluble(0.25),
    },
    hardPastel,
    stick,
  ),
  // Oil and wax: greasy ridges over the tooth.
  dry(
    {
      id: "pastel-oil",
      name: "Oil pastel",
      kit: KIT,
      size: 30,
      tags: ["wax", "opaque", "colour"],
      revision: 2,
    },
    oilPastel,
    stick,
  ),
  // A skin of wax over the peaks that more pressure hardly closes.
  dry(
    { id: "crayon-wax", name: "Wax crayon", kit: KIT, size: 18, tags: ["wax"] },
    waxCrayon,
    stick,
  ),
  // A hard-pressed square stick, earth colours: a firm line on its corner, a tone on its face.
  dry(
    {
      id: "crayon-hard",
      name: "Conté crayon",
      kit: KIT,
      size: 12,
      tags: ["dry", "line"],
      ...soluble(0.2),
    },
    conteStick,
    stick,
  ),
];
