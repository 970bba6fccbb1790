import { eraserPoint, graphite, kneadedRubber, scraper, vinylRubber } from "../dry/materials";
import { type Brush } from "../stroke/brush";
import { type ContactInput } from "../dry/material";
import { by, from } from "./brush-making";
import { dry, side, stick } from "./dry-making";

const KIT = "Stumps and erasers";

/** A round tip that a press widens a little. */
const pad = {
  diameter: from(1, by("pressure", [0, 0.7], [1, 1.1])),
  stretch: from(1),
  angle: from(0),
  flow: from(1, by("pressure", [0, 0.05], [1, 1])),
};

/** What rubs powder about gives nothing of its own. */
const rubbing = (rubs: number, melts?: number): ContactInput => ({
  ...graphite(0.2),
  gives: 0.02,
  rubs,
  ...(melts ? { melts } : {}),
});

const tool = (
  does: "lift" | "blend",
  written: { id: string; name: string; size: number; tags: string[]; revision?: number },
  material: ContactInput,
  shape: Parameters<typeof dry>[2],
): Brush => ({ ...dry({ ...written, kit: KIT }, material, shape), does });

export const powderTools: readonly Brush[] = [
  // Rolled paper, pointed: it lies down as a pencil does.
  tool(
    "blend",
    { id: "stump", name: "Stump", size: 26, tags: ["smudge"], revision: 2 },
    rubbing(1, 0.06),
    stick,
  ),
  // Warm and a little greasy: it takes up more, and softens wax.
  tool(
    "blend",
    { id: "fingertip", name: "Fingertip", size: 48, tags: ["smudge"], revision: 2 },
    rubbing(1.5, 0.22),
    pad,
  ),
  // It moves what lies loose and hardly more.
  tool(
    "blend",
    { id: "dusting-brush", name: "Dusting brush", size: 90, tags: ["smudge", "soft"] },
    rubbing(0.5),
    pad,
  ),
  // Wax gives way to a hard smooth tool alone.
  tool(
    "blend",
    { id: "burnisher", name: "Burnisher", size: 20, tags: ["smudge", "wax"] },
    rubbing(3),
    pad,
  ),
  tool(
    "lift",
    { id: "eraser-kneaded", name: "Kneaded eraser", size: 36, tags: ["eraser"] },
    kneadedRubber,
    pad,
  ),
  tool(
    "lift",
    { id: "eraser-vinyl", name: "Vinyl eraser", size: 30, tags: ["eraser"] },
    vinylRubber,
    pad,
  ),
  tool(
    "lift",
    { id: "eraser-point", name: "Eraser pencil", size: 9, tags: ["eraser", "fine"] },
    eraserPoint,
    pad,
  ),
  tool(
    "lift",
    { id: "scraper", name: "Scraper", size: 16, tags: ["eraser", "wax"] },
    scraper,
    side(3),
  ),
];
