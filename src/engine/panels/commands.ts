import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { putLayer, withLayers } from "../command/layers";
import { maskTo } from "../command/masks";
import { frameLine } from "../lines/ruled";
import { changeLines } from "../lines/draw-lines";
import { linesOf, nextId } from "../lines/line-set";
import { type Line } from "../lines/line";
import { layerId, newId, newLayer, type Picture } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { shapeTiles } from "../select/shape-tiles";
import { TILE_SIDE, type Box } from "../tiles/layout";
import { boxSchema, scaledBox } from "../transform/warp";
import {
  cornersOf,
  frameStyleSchema,
  MOST_PANELS,
  type Panel,
  type Panels,
  widestGutter,
} from "./panels";
import {
  alongGutter,
  around,
  bledShape,
  cutShape,
  overlapOf,
  readingOrder,
  type Shape,
  shapeOfBox,
  withSideMoved,
} from "./shape";

const coordinate = z.number().min(-65_536).max(65_536);
const place = z.tuple([coordinate, coordinate]);
/** New layers are called by this and a number. */
const newIds = newId.refine((id) => id.length <= 48, { message: "at most 48 letters" });
const side = z.int().min(0).max(63);

export const layPanelsSchema = z.strictObject({
  do: z.literal("panels.lay"),
  id: newIds,
  /** What the one panel takes up, px. */
  box: boxSchema,
  style: frameStyleSchema,
});
export const cutPanelsSchema = z.strictObject({
  do: z.literal("panels.cut"),
  id: newIds,
  from: place,
  to: place,
  /** Px between the parts. */
  gutter: z.number().min(0).max(4000),
});
export const bleedSchema = z.strictObject({
  do: z.literal("panels.bleed"),
  group: layerId,
  /** From which corner, clockwise, the side goes that ends beyond the sheet's edge from now on. */
  side,
});
export const pushSchema = z.strictObject({
  do: z.literal("panels.push"),
  group: layerId,
  side,
  by: place,
});
export const joinPanelsSchema = z.strictObject({
  do: z.literal("panels.join"),
  /** The first takes in the second. */
  groups: z.tuple([layerId, layerId]),
});

/** What frames are drawn with: it keeps one width. */
const FRAME_BRUSH = "pen-even";

const sheetOf = ({ width, height }: Picture): Box => ({
  left: 0,
  top: 0,
  right: width,
  bottom: height,
});

/** The panels whose groups are still there. @throws Refusal where the page has none */
function panelsOf(picture: Picture): Panels {
  const { panels, layers } = picture.structure;
  const own = panels && {
    ...panels,
    panels: panels.panels.filter(({ group }) => layers.some(({ id }) => id === group)),
  };
  if (!own || own.panels.length === 0)
    throw new Refusal("The page has no panels yet. Lay the first one.");
  return own;
}

/** @throws Refusal where a group is no panel, or its side is none */
function panelOf(panels: Panels, group: string, of = 0): { panel: Panel; place: number } {
  const found = panels.panels.findIndex((panel) => panel.group === group);
  const panel = panels.panels[found];
  if (!panel) throw new Refusal(`"${group}" is no panel`);
  if (of >= panel.corners.length)
    throw new Refusal(`a panel of ${panel.corners.length} sides has no side ${of}`);
  return { panel, place: found };
}

/** Refuses what would change a group that is locked. */
function refuseLocked(picture: Picture, group: string): void {
  const layer = picture.layer(group);
  if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to change its panel.`);
}

/** The mask of a panel's group: all outside of its shape is held back. */
function maskPanel(applying: Applying, group: string, shape: Shape): void {
  const { picture, bench } = applying;
  const { width, height } = picture;
  const words = Math.ceil(width / TILE_SIDE);
  maskTo(applying, group, shapeTiles(bench.store, { width, height, words }, shape));
}

/** A new group with a layer to draw on in it, on top of a layer or of all. */
function addPanelLayers(applying: Applying, group: string, above: string | null): void {
  const { picture } = applying;
  const { layers } = picture.structure;
  const place = above === null ? layers.length : picture.indexOf(above) + 1;
  const outer = above === null ? null : picture.layer(above).group;
  putLayer(applying, { ...newLayer(`${group}.drawing`, "Drawing"), group }, place);
  putLayer(applying, { ...newLayer(group, "Panel"), kind: "group", group: outer }, place + 1);
}

/** Draws frames anew where shapes have changed, and remembers them. */
function put(applying: Applying, before: Panels, after: readonly Panel[]): void {
  const { picture, bench } = applying;
  const layer = picture.structure.layers.find(({ id }) => id === before.frames);
  if (layer?.locked)
    throw new Refusal(`“${layer.name}” is locked. Unlock it, so that frames can follow.`);
  const draws = layer?.kind === "lines";
  const known = new Map(before.panels.map((panel) => [panel.group, panel]));
  const kept = new Set(after.map(({ group }) => group));
  const set = draws ? linesOf(bench.store, picture, before.frames) : null;
  const gone = before.panels.flatMap(({ group, frame }) =>
    !kept.has(group) && set?.byId.has(frame) ? [frame] : [],
  );
  const lines: Line[] = [];
  let next = set ? nextId(set) : 1;
  const made = after.map((panel): Panel => {
    const same = known.get(panel.group)?.corners === panel.corners;
    if (same) return panel;
    refuseLocked(picture, panel.group);
    maskPanel(applying, panel.group, panel.corners);
    if (!set) return panel;
    const id = panel.frame > 0 && set.byId.has(panel.frame) ? panel.frame : next++;
    const { width, colour } = before.style;
    lines.push(
      frameLine(
        panel.corners,
        width,
        { brush: FRAME_BRUSH, size: width, strength: 1, colour, second: colour, seed: 0 },
        { id, z: 0 },
      ),
    );
    return { ...panel, frame: id };
  });
  if (lines.length + gone.length > 0) changeLines(applying, before.frames, { gone, put: lines });
  named(applying, { ...before, panels: made });
}

const GIVEN = /^Panel( \d+)?$/;

/** Panels are kept in the order in which they are read, and their groups named so, but for names of one's own. */
function named(applying: Applying, panels: Panels): void {
  const order = readingOrder(panels.panels.map(({ corners }) => corners));
  const sorted = order.map((i) => panels.panels[i] as Panel);
  const numbers = new Map(sorted.map(({ group }, i) => [group, i + 1]));
  const { structure } = applying.picture;
  applying.setStructure({ ...structure, panels: { ...panels, panels: sorted } });
  withLayers(
    applying,
    structure.layers.map((layer) => {
      const number = numbers.get(layer.id);
      return number && GIVEN.test(layer.name) ? { ...layer, name: `Panel ${number}` } : layer;
    }),
  );
}

function layPanels(applying: Applying, command: z.infer<typeof layPanelsSchema>): string {
  const { picture } = applying;
  const { id, box, style } = command;
  const { panels, layers } = picture.structure;
  if (panels?.panels.some(({ group }) => layers.some((layer) => layer.id === group)))
    throw new Refusal("The page has panels already. Cut them, or remove their groups.");
  addPanelLayers(applying, id, null);
  const frames = `${id}.frames`;
  putLayer(
    applying,
    { ...newLayer(frames, "Frames"), kind: "lines" },
    picture.structure.layers.length,
  );
  const panel = { group: id, frame: 0, corners: cornersOf(shapeOfBox(box)) };
  put(applying, { frames, style, panels: [] }, [panel]);
  return "lay a page of panels";
}

function cutPanels(applying: Applying, command: z.infer<typeof cutPanelsSchema>): string {
  const { picture } = applying;
  const before = panelsOf(picture);
  const { from, to, gutter, id } = command;
  const made: Panel[] = [];
  const cut = before.panels.map((panel): Panel => {
    const parts = cutShape(panel.corners, from, to, gutter);
    if (!parts) return panel;
    refuseLocked(picture, panel.group);
    const group = made.length === 0 ? id : `${id}.${made.length + 1}`;
    made.push({ group, frame: 0, corners: cornersOf(parts[1]) });
    addPanelLayers(applying, group, panel.group);
    return { ...panel, corners: cornersOf(parts[0]) };
  });
  if (made.length === 0) throw new Refusal("Drag from one side of a panel to another to cut it.");
  if (cut.length + made.length > MOST_PANELS)
    throw new Refusal(`a page has at most ${MOST_PANELS} panels`);
  put(applying, before, [...cut, ...made]);
  return made.length === 1 ? "cut a panel" : "cut panels";
}

function bleed(applying: Applying, command: z.infer<typeof bleedSchema>): string {
  const { picture } = applying;
  const before = panelsOf(picture);
  const { panel } = panelOf(before, command.group, command.side);
  const beyond = 2 * before.style.width + 2;
  const shape = bledShape(panel.corners, command.side, sheetOf(picture), beyond);
  const others = before.panels.filter((other) => other !== panel);
  if (!shape || others.some(({ corners }) => overlapOf(shape, corners) > 1))
    throw new Refusal("Another panel lies between this side and the sheet's edge.");
  put(applying, before, [...others, { ...panel, corners: cornersOf(shape) }]);
  return "let a panel bleed";
}

function push(applying: Applying, command: z.infer<typeof pushSchema>): string {
  const { picture } = applying;
  const before = panelsOf(picture);
  const { place: of } = panelOf(before, command.group, command.side);
  const shapes = before.panels.map(({ corners }) => corners);
  const sides = alongGutter(shapes, { of, side: command.side }, widestGutter(picture));
  const after = before.panels.map((panel, i): Panel => {
    let shape: Shape = panel.corners;
    for (const own of sides) {
      if (own.of !== i) continue;
      const moved = withSideMoved(shape, own.side, command.by);
      if (!moved || moved.length !== shape.length)
        throw new Refusal("There is no room for the panel beside it. Push it less far.");
      shape = moved;
    }
    return shape === panel.corners ? panel : { ...panel, corners: cornersOf(shape) };
  });
  put(applying, before, after);
  return "push a gutter";
}

function joinPanels(applying: Applying, command: z.infer<typeof joinPanelsSchema>): string {
  const { picture } = applying;
  const before = panelsOf(picture);
  const [{ panel: a }, { panel: b }] = [
    panelOf(before, command.groups[0]),
    panelOf(before, command.groups[1]),
  ];
  if (a === b) throw new Refusal("two panels are joined");
  refuseLocked(picture, b.group);
  const shape = around(a.corners, b.corners);
  const others = before.panels.filter((panel) => panel !== a && panel !== b);
  if (others.some(({ corners }) => overlapOf(shape, corners) > 1))
    throw new Refusal("Another panel lies between them. Join those that make one shape.");
  // What was drawn in the second is drawn in the first now; its group goes, with its mask.
  withLayers(
    applying,
    picture.structure.layers.map((layer) =>
      layer.group === b.group ? { ...layer, group: a.group } : layer,
    ),
  );
  for (const [name, plane] of picture.planesOf(b.group))
    for (const key of [...plane.keys()]) applying.swap(b.group, key, null, name);
  withLayers(
    applying,
    picture.structure.layers.filter(({ id }) => id !== b.group),
  );
  put(applying, before, [...others, { ...a, corners: cornersOf(shape) }]);
  return "join panels";
}

const grown = ([x, y]: readonly [number, number], by: number): [number, number] => [x * by, y * by];
const held = (v: number, least: number, most: number): number => Math.min(most, Math.max(least, v));

export const panelCommands = [
  defineCommand({
    schema: layPanelsSchema,
    apply: layPanels,
    scaled: (command, by) => ({
      ...command,
      box: scaledBox(command.box, by),
      style: { ...command.style, width: held(command.style.width * by, 0.5, 500) },
    }),
  }),
  defineCommand({
    schema: cutPanelsSchema,
    apply: cutPanels,
    scaled: (command, by) => ({
      ...command,
      from: grown(command.from, by),
      to: grown(command.to, by),
      gutter: held(command.gutter * by, 0, 4000),
    }),
  }),
  defineCommand({ schema: bleedSchema, apply: bleed }),
  defineCommand({
    schema: pushSchema,
    apply: push,
    scaled: (command, by) => ({ ...command, by: grown(command.by, by) }),
  }),
  defineCommand({ schema: joinPanelsSchema, apply: joinPanels }),
] as const;
