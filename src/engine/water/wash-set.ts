import { z } from "zod";
import { type Applying } from "../command/command";
import { changeLayer } from "../command/stroke";
import { defineCommand } from "../command/define";
import { layerId, workableLayer } from "../picture/picture";
import { tiltSchema, USUAL_WASH, washSchema } from "./wash-state";

export const setWashSchema = z.strictObject({
  do: z.literal("wash.set"),
  layer: layerId,
  edge: washSchema.shape.edge.optional(),
  pace: washSchema.shape.pace.optional(),
});

/** How the washes of a layer behave while they dry. @throws Refusal where the layer may not be worked on */
function setWash(applying: Applying, { layer, edge, pace }: z.infer<typeof setWashSchema>): string {
  const { wash = USUAL_WASH } = workableLayer(applying.picture, layer);
  changeLayer(applying, layer, {
    wash: { ...wash, edge: edge ?? wash.edge, pace: pace ?? wash.pace },
  });
  return edge === undefined ? "pace of drying" : "edge of washes";
}

export const setTiltSchema = z.strictObject({ do: z.literal("tilt.set"), tilt: tiltSchema });

/** Tilts the sheet: water on it runs that way. */
function setTilt(
  { picture, setStructure }: Applying,
  { tilt }: z.infer<typeof setTiltSchema>,
): string {
  setStructure({ ...picture.structure, tilt });
  return "tilt the sheet";
}

export const washCommands = [
  defineCommand({ schema: setWashSchema, apply: setWash }),
  defineCommand({ schema: setTiltSchema, apply: setTilt }),
] as const;
