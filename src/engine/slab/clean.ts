import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { Refusal } from "../picture/refusal";
import { SLAB } from "./slab";

export const cleanSlabSchema = z.strictObject({ do: z.literal("slab.clean") });

/** Scrapes the whole slab clean. @throws Refusal where nothing is on it */
function cleanSlab({ picture, swap, keepingWet }: Applying): string {
  const planes = picture.planesOf(SLAB).filter(([, plane]) => plane.size > 0);
  if (planes.length === 0) throw new Refusal("The slab is clean already.");
  keepingWet("all", () => {
    for (const [name, plane] of planes)
      for (const key of [...plane.keys()]) swap(SLAB, key, null, name);
  });
  return "clean the slab";
}

export const cleanSlabCommand = defineCommand({ schema: cleanSlabSchema, apply: cleanSlab });
