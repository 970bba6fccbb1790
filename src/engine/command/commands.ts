import { z } from "zod";
import { firstFault, Refusal } from "../picture/refusal";
import { adjust, adjustSchema } from "./adjust";
import { bringBrush, bringBrushSchema } from "./brush";
import { type Applying } from "./command";
import { fill, fillLoop, fillLoopSchema, fillSchema, flatsSchema, layFlats } from "./fill";
import { gradientSchema, layGradient } from "./gradient";
import { setGuides, setGuidesSchema } from "./guides";
import * as layers from "./layers";
import * as masks from "./masks";
import { mergeLayers, mergeSchema } from "./merge";
import { pictureSetSchema, setPicture } from "./picture";
import { place, placeSchema } from "./place";
import { replaceColour, replaceColourSchema } from "./replace-colour";
import * as selection from "./select";
import { layTexture, textureSchema } from "./texture";
import { edgeBand, edgeBandSchema, shadeSteps, shadeStepsSchema } from "./shading";
import * as stencils from "./stencils";
import { setStudies, setStudiesSchema } from "./studies";
import { setSun, setSunSchema } from "./sun";
import { applyStroke, strokeSchema } from "./stroke";
import { setWells, setWellsSchema } from "./wells";
import { transform, transformSchema } from "./transform";

const single = z.discriminatedUnion("do", [
  layers.addSchema,
  layers.removeSchema,
  layers.moveSchema,
  layers.copySchema,
  layers.clearSchema,
  layers.setSchema,
  layers.groupSchema,
  layers.ungroupSchema,
  mergeSchema,
  masks.addMaskSchema,
  masks.removeMaskSchema,
  masks.invertMaskSchema,
  adjustSchema,
  gradientSchema,
  replaceColourSchema,
  edgeBandSchema,
  shadeStepsSchema,
  textureSchema,
  pictureSetSchema,
  bringBrushSchema,
  setGuidesSchema,
  setSunSchema,
  setStudiesSchema,
  setWellsSchema,
  placeSchema,
  transformSchema,
  strokeSchema,
  fillSchema,
  fillLoopSchema,
  flatsSchema,
  stencils.addStencilSchema,
  stencils.setStencilsSchema,
  stencils.removeStencilSchema,
  selection.selectSchema,
  selection.changeSelectionSchema,
  selection.noSelectionSchema,
  selection.keepSelectionSchema,
  selection.forgetSelectionSchema,
]);

/** Several commands as one step of the history. */
const together = z.strictObject({
  do: z.literal("together"),
  label: z.string().min(1).max(80),
  steps: z.array(single).min(1).max(5000),
});

/** Every command there is. */
export const commandSchema = z.discriminatedUnion("do", [...single.options, together]);

type Single = z.infer<typeof single>;
export type Command = z.infer<typeof commandSchema>;
/** A command as it may be written, defaults left out. */
export type CommandInput = z.input<typeof commandSchema>;

/**
 * A command from data of any kind.
 * @throws Refusal that names the field at fault
 */
export function parseCommand(data: unknown): Command {
  const parsed = commandSchema.safeParse(data);
  if (parsed.success) return parsed.data;
  throw new Refusal(firstFault(parsed.error));
}

function applySingle(applying: Applying, command: Single): string {
  switch (command.do) {
    case "layer.add":
      return layers.addLayer(applying, command);
    case "layer.remove":
      return layers.removeLayer(applying, command);
    case "layer.move":
      return layers.moveLayer(applying, command);
    case "layer.copy":
      return layers.copyLayer(applying, command);
    case "layer.clear":
      return layers.clearLayer(applying, command);
    case "layer.set":
      return layers.setLayer(applying, command);
    case "layer.group":
      return layers.groupLayers(applying, command);
    case "layer.ungroup":
      return layers.ungroup(applying, command);
    case "layer.merge":
      return mergeLayers(applying, command);
    case "mask.add":
      return masks.addMask(applying, command);
    case "mask.remove":
      return masks.removeMask(applying, command);
    case "mask.invert":
      return masks.invertMask(applying, command);
    case "adjust":
      return adjust(applying, command);
    case "gradient":
      return layGradient(applying, command);
    case "edge.band":
      return edgeBand(applying, command);
    case "texture":
      return layTexture(applying, command);
    case "shade.steps":
      return shadeSteps(applying, command);
    case "colour.replace":
      return replaceColour(applying, command);
    case "picture.set":
      return setPicture(applying, command);
    case "guides.set":
      return setGuides(applying, command);
    case "sun.set":
      return setSun(applying, command);
    case "studies.set":
      return setStudies(applying, command);
    case "wells.set":
      return setWells(applying, command);
    case "brush.bring":
      return bringBrush(applying, command);
    case "place":
      return place(applying, command);
    case "transform":
      return transform(applying, command);
    case "stroke":
      return applyStroke(applying, command);
    case "fill":
      return fill(applying, command);
    case "fill.loop":
      return fillLoop(applying, command);
    case "flats":
      return layFlats(applying, command);
    case "stencil.add":
      return stencils.addStencil(applying, command);
    case "stencil.set":
      return stencils.setStencils(applying, command);
    case "stencil.remove":
      return stencils.removeStencil(applying, command);
    case "select":
      return selection.select(applying, command);
    case "select.change":
      return selection.changeSelection(applying, command);
    case "select.none":
      return selection.selectNone(applying);
    case "select.keep":
      return selection.keepSelection(applying, command);
    case "select.forget":
      return selection.forgetSelection(applying, command);
  }
}

/** Carries out a command. Returns its label for the history. */
export function applyCommand(applying: Applying, command: Command): string {
  if (command.do !== "together") return applySingle(applying, command);
  for (const step of command.steps) applySingle(applying, step);
  return command.label;
}

/**
 * Whether a command is no step of its own to the person: undo takes it back together with
 * what came after it.
 */
export const isSilent = (command: Command): boolean => command.do === "brush.bring";
