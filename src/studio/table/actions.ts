import { type Session } from "./session";
import { FAVOURITES_KIT, kitsOf, useBrushBox } from "../brushes/brush-box";
import { hasPixels, isFluid } from "../../engine/picture/picture";
import { blendModes } from "../../engine/compose/blend-modes";
import { adjustmentNames, beginAdjusting } from "./adjust/adjust-store";
import { toggleCharts, toggleEyes, toggleHoles, toggleWipe } from "./crit/crit-store";
import { rooms, type Room } from "../rooms";
import { AID, NO_AID } from "./sketch-aid";
import { addHalftone, canBeHalftone, openHalftone } from "./halftone/halftone-store";
import { type KeyAction, keyName } from "./keys/key-map";
import { chosenActions } from "./lines/chosen";
import { correcting, type Correcting, toggleLines, useLines } from "./lines/lines-store";
import { kitOrder, stages, useTable } from "./table-store";
import { madeSets } from "../../engine/strew/sets";
import { collectPicture, openStrew } from "./strew/strew-store";
import { openPanels, panelActs, type PanelAct, panelsOn, usePanels } from "./panels/panels-store";
import { showStepsAgain } from "./first-steps/first-steps";
import { addFluid, rubOff } from "./layers/masking-fluid";
import { openScene } from "./scene/scene-store";
import { openSheet } from "./sheet/sheet-store";
import { keepSignature, signPicture } from "./sign/sign";
import { copySelected, cutSelected, floatSelected, pasteClipping } from "./region/clipboard";
import { selectingWays, toggleTool, useRegion } from "./region/region-store";
import { cutFromLayer, cutFromSelection, layAll } from "./stencils/stencil-store";
import { FIRST_TURN } from "./stencils/card";
import { toggleTransform } from "./transform/transform-store";

/** Something that can be done from the command finder, and by key where it has one. */
export type Action = { name: string; keys?: string; act: () => unknown; disabled?: boolean };

const ctrl = typeof navigator !== "undefined" && /Mac/.test(navigator.platform) ? "⌘" : "Ctrl";

/** Every command of the table, as it stands now. */
export function actionsOf(session: Session): Action[] {
  const state = useTable.getState();
  const { picture, selected } = state;
  const none = selected.length === 0;
  const set = state.set;
  const key = (action: KeyAction): string => keyName(state.keys[action]);
  const working = picture?.layers.find(({ id }) => id === selected[0]);
  const selectLayer = (by: "shape" | "light" | "dark"): unknown =>
    working && session.selectShape({ kind: "layer", layer: working.id, by });
  return [
    {
      name: `Undo${picture?.undo ? `: ${picture.undo}` : ""}`,
      keys: `${ctrl} Z`,
      act: () => session.undo(),
      disabled: !picture?.undo,
    },
    {
      name: `Redo${picture?.redo ? `: ${picture.redo}` : ""}`,
      keys: `${ctrl} Shift Z`,
      act: () => session.redo(),
      disabled: !picture?.redo,
    },
    { name: "Paint", keys: key("paint"), act: () => set({ mode: "paint", tool: "brush" }) },
    { name: "Lift", keys: key("lift"), act: () => set({ mode: "lift", tool: "brush" }) },
    { name: "Blend", keys: key("blend"), act: () => set({ mode: "blend", tool: "brush" }) },
    { name: "Last brush", keys: key("lastBrush"), act: () => state.chooseBrush(state.lastBrush) },
    ...kitsOf(useBrushBox.getState(), kitOrder(state.stage))
      .filter(({ name }) => name !== FAVOURITES_KIT)
      .flatMap(({ name: kit, brushes }) =>
        brushes.map(({ id, name }) => ({
          name: `Brush: ${name} (${kit})`,
          act: () => state.chooseBrush(id),
        })),
      ),
    { name: "Workshop: make or change a brush…", act: () => set({ dialog: "workshop" }) },
    { name: "Slab: take out, put away", act: () => set({ slabShown: !state.slabShown }) },
    {
      name: "Slab: squeeze out the colour in hand",
      act: () => session.changed(session.link.api.squeeze(state.colour)),
    },
    {
      name: "Slab: clean",
      act: () => session.apply({ do: "slab.clean" }),
      disabled: picture?.slabIsBare,
    },
    {
      name: "Brush keeps its paint, on or off",
      act: () => set({ keepsPaint: !state.keepsPaint }),
    },
    { name: "Pick a colour", keys: `hold ${key("pick")}`, act: () => set({ tool: "pick" }) },
    { name: "Sign the picture", act: () => signPicture(session) },
    {
      name: "Keep this line layer as signature",
      act: () => keepSignature(session),
      disabled: working?.kind !== "lines",
    },
    { name: "Strew leaves, snow, birds…", act: () => openStrew(session) },
    ...madeSets.map(({ name }, number) => ({
      name: `Strew: ${name.toLowerCase()}`,
      act: () => openStrew(session, number),
    })),
    {
      name: "Strew: collect a picture from the selection",
      act: () => collectPicture(session),
      disabled: !picture?.selection,
    },
    {
      name: "Place strewn pieces as paint",
      act: () => working && session.apply({ do: "strew.place", layer: working.id }),
      disabled: working?.kind !== "strewn",
    },
    { name: "Sheet: crop, extend, turn…", act: () => openSheet("cut") },
    { name: "Sheet: resize…", act: () => openSheet("resize") },
    { name: "Sheet: size on paper…", act: () => openSheet("on paper") },
    {
      name: "Halftone of the layer…",
      act: () => working && openHalftone(session, working),
      disabled: !working || !canBeHalftone(working),
    },
    { name: "New halftone layer, the selection filled", act: () => addHalftone(session) },
    { name: "Select", keys: key("select"), act: () => toggleTool(session, "select") },
    ...selectingWays.map((way) => ({
      name: `Select: ${way}`,
      act: () => {
        useRegion.getState().set({ selecting: way });
        set({ tool: "select" });
      },
    })),
    {
      name: "Select all",
      keys: `${ctrl} A`,
      act: () => session.selectShape({ kind: "all" }, "replace"),
    },
    {
      name: "Select nothing",
      act: () => session.selectNone(),
      disabled: !picture?.selection,
    },
    {
      name: "Invert the selection",
      act: () => session.changeSelection({ kind: "invert" }),
      disabled: !picture?.selection,
    },
    {
      name: "Copy",
      keys: `${ctrl} C`,
      act: () => copySelected(session, false),
      disabled: none,
    },
    { name: "Copy merged", act: () => copySelected(session, true) },
    { name: "Cut", keys: `${ctrl} X`, act: () => cutSelected(session), disabled: none },
    { name: "Paste where it was", keys: `${ctrl} V`, act: () => pasteClipping(session, false) },
    {
      name: "Paste in the middle",
      act: () => pasteClipping(session, true),
    },
    {
      name: "Clear around the selection",
      act: () => session.clearLayers(true),
      disabled: none || !picture?.selection,
    },
    {
      name: "Move selection to a new layer",
      act: () => floatSelected(session),
      disabled: none || !picture?.selection,
    },
    { name: "Fill", keys: key("fill"), act: () => toggleTool(session, "fill") },
    {
      name: "Fill: replace a colour everywhere on this layer",
      act: () => {
        useRegion.getState().set({ what: "everywhere", path: [], look: null });
        set({ tool: "fill" });
      },
      disabled: none,
    },
    {
      name: "Fill: gradient",
      act: () => {
        useRegion.getState().set({ what: "gradient", path: [], look: null });
        set({ tool: "fill" });
      },
      disabled: none,
    },
    { name: "Correct lines", keys: key("lines"), act: () => toggleLines(session) },
    ...(Object.keys(correcting) as Correcting[]).map((act) => ({
      name: `Correct lines: ${correcting[act].toLowerCase()}`,
      act: () => {
        useLines.setState({ act });
        set({ tool: "lines" });
      },
    })),
    { name: "Panels: cut the page…", act: () => openPanels(session) },
    ...(Object.keys(panelActs) as PanelAct[])
      .filter((act) => act !== "cut")
      .map((act) => ({
        name: `Panels: ${panelActs[act].toLowerCase()}`,
        act: () => {
          usePanels.setState({ act });
          return openPanels(session);
        },
        disabled: panelsOn(picture).length === 0,
      })),
    ...chosenActions(session).map(({ name, act }) => ({
      name: `Chosen lines: ${name.toLowerCase()}`,
      act,
      disabled: useLines.getState().chosen.length === 0,
    })),
    {
      name: "Add a line layer: lines stay editable",
      act: () => session.addLayer({ kind: "lines", name: "Lines" }),
    },
    {
      name: "Turn paint into lines: marks are read as lines that stay editable",
      act: () => working && session.traceLines(working),
      disabled: working?.kind !== "paint",
    },
    {
      name: "Turn lines into paint",
      act: () => working && session.apply({ do: "line.to-paint", layer: working.id }),
      disabled: working?.kind !== "lines",
    },
    { name: "Masking fluid: lay what is to stay bare", act: () => addFluid(session) },
    {
      name: "Masking fluid: rub all of it off",
      act: () => rubOff(session),
      disabled: !picture?.layers.some(isFluid),
    },
    { name: "Lay flats from the line source", act: () => session.layFlats() },
    {
      name: working?.lines ? "No longer a line source" : "Line source",
      act: () => session.setLayers({ lines: !working?.lines }),
      disabled: none,
    },
    { name: "Swap colours", keys: key("swap"), act: swapColours },
    { name: "Add layer", act: () => session.addLayer() },
    { name: "Duplicate layers", act: () => session.duplicateLayers(), disabled: none },
    { name: "Remove layers", act: () => session.removeLayers(), disabled: none },
    { name: "Clear layers", keys: "Delete", act: () => session.clearLayers(), disabled: none },
    {
      name: "Move layers up",
      keys: `${ctrl} ↑`,
      act: () => session.nudgeLayers(1),
      disabled: none,
    },
    {
      name: "Move layers down",
      keys: `${ctrl} ↓`,
      act: () => session.nudgeLayers(-1),
      disabled: none,
    },
    {
      name: working?.visible ? "Hide layers" : "Show layers",
      act: () => session.setLayers({ visible: !working?.visible }),
      disabled: none,
    },
    {
      name: working?.locked ? "Unlock layers" : "Lock layers",
      act: () => session.setLayers({ locked: !working?.locked }),
      disabled: none,
    },
    {
      name: working?.lockTransparency ? "Unlock transparency" : "Lock transparency",
      act: () => session.setLayers({ lockTransparency: !working?.lockTransparency }),
      disabled: none,
    },
    {
      name: working?.clip ? "Unclip layers" : "Clip to the layer below",
      act: () => session.setLayers({ clip: !working?.clip }),
      disabled: none,
    },
    {
      name: working?.tint ? "No longer a sketch aid" : "Sketch aid: dim, tint and lock layers",
      act: () => session.setLayers(working?.tint ? NO_AID : AID),
      disabled: none,
    },
    {
      name: "Transform layers: move, scale, turn, bend",
      keys: key("transform"),
      act: () => toggleTransform(session),
      disabled: none,
    },
    {
      name: "Transform what lies in a box",
      act: () => set({ tool: "transform box" }),
      disabled: none,
    },
    {
      name: "Studies: compare them, carry one over",
      act: () => set({ dialog: "studies" }),
      disabled: !picture?.studies,
    },
    {
      name: state.pinsShown ? "Hide the pins" : "Show the pins",
      act: () => set({ pinsShown: !state.pinsShown }),
    },
    {
      name: state.card === null ? "Hold a card in the other hand" : "Put the card away",
      act: () => set({ card: state.card === null ? FIRST_TURN : null }),
    },
    {
      name: "Cut a stencil from the selection",
      act: () => cutFromSelection(session),
      disabled: !picture?.selection,
    },
    {
      name: "Cut a stencil from what this layer holds",
      act: () => cutFromLayer(session, "shape"),
      disabled: none,
    },
    {
      name: "Show all stencils",
      act: () => layAll(session, true),
      disabled: !picture?.stencils.some(({ on }) => !on),
    },
    {
      name: "Hide all stencils",
      act: () => layAll(session, false),
      disabled: !picture?.stencils.some(({ on }) => on),
    },
    { name: "Replay the work…", act: () => set({ dialog: "replay" }) },
    { name: "Ground and paper…", act: () => set({ dialog: "paper" }) },
    { name: "Fit", keys: key("zoom"), act: () => session.fit() },
    { name: "One to one", act: () => session.oneToOne() },
    { name: "Upright", keys: key("turn"), act: () => session.upright() },
    {
      name: state.follow ? "Guides: draw freely" : "Guides: follow them",
      keys: key("guides"),
      act: () => session.toggleFollow(),
    },
    {
      name: picture?.sun ? "Take the sun pin away" : "Set a sun pin",
      act: () => session.toggleSun(),
    },
    { name: "Scene: block a place out in solids", act: openScene },
    {
      name: "Scene: take it away, its layers stay",
      act: () => void session.apply({ do: "scene.clear" }),
      disabled: !picture?.scene,
    },
    {
      name: state.shine ? "Wet paint: no shine" : "Wet paint: shines",
      act: () => session.toggleShine(),
    },
    { name: "Values", keys: key("values"), act: () => session.toggleValues() },
    ...[2, 3, 4, 5, 6, 7].map((steps) => ({
      name: `Values in ${steps} steps`,
      act: () => {
        set({ valueSteps: steps });
        session.lookAtValues(steps);
      },
    })),
    { name: "Values and hues: charts", act: () => toggleCharts(session) },
    { name: "Where the eye goes", act: () => toggleEyes(session) },
    { name: "Holes: bare places inside of paint", act: () => toggleHoles(session) },
    { name: "All checks, before signing…", act: () => set({ dialog: "signing" }) },
    { name: "Before and after, side by side", act: () => toggleWipe(session) },
    ...Object.entries(adjustmentNames).map(([kind, name]) => ({
      name: `Adjust: ${name}…`,
      act: () => beginAdjusting(session, kind as keyof typeof adjustmentNames, null),
      disabled: none,
    })),
    {
      name: "Select: layer's shape",
      act: () => selectLayer("shape"),
      disabled: none,
    },
    { name: "Select: layer's lights", act: () => selectLayer("light"), disabled: none },
    { name: "Select: layer's darks", act: () => selectLayer("dark"), disabled: none },
    { name: "Group layers", act: () => session.groupLayers(), disabled: none },
    { name: "Merge down", act: () => session.mergeDown(), disabled: none },
    { name: "Merge the chosen layers", act: () => session.mergeSelected(), disabled: none },
    {
      name: "Spray fixative: loose powder is bound",
      act: () => session.fixPowder(),
      disabled: none,
    },
    {
      name: working?.fringe ? "No fringe" : "Fringe: paint gathers along its rim, as a wash's does",
      act: () => working && session.toggleFringe(working),
      disabled: !working || !hasPixels(working.kind),
    },
    {
      name: "Dry now: wet paint is left as it stands",
      act: () => session.dryPaint(),
      disabled: none,
    },
    { name: "Flatten the picture", act: () => session.flattenPicture() },
    { name: "New layer from visible", act: () => session.copyMerged() },
    {
      name: "Layer a little more opaque",
      keys: key("fuller"),
      act: () => session.changeOpacity(1),
      disabled: none,
    },
    {
      name: "Layer a little more transparent",
      keys: key("paler"),
      act: () => session.changeOpacity(-1),
      disabled: none,
    },
    {
      name: "Next blend mode",
      keys: key("blendAfter"),
      act: () => session.changeBlend(1),
      disabled: none,
    },
    {
      name: "Blend mode before",
      keys: key("blendBefore"),
      act: () => session.changeBlend(-1),
      disabled: none,
    },
    ...blendModes.map((blend) => ({
      name: `Blend mode: ${blend.replace("-", " ").replace("color", "colour")}`,
      act: () => session.setLayers({ blend }),
      disabled: none,
    })),
    {
      name: "Replace the second colour by the first on this layer",
      act: () => session.replaceColour(),
      disabled: none,
    },
    { name: "Squint", keys: key("squint"), act: () => session.squint() },
    { name: "Mirror view", keys: key("mirror"), act: () => session.mirror() },
    { name: "Move the sheet", keys: "hold Space", act: () => set({ tool: "hand" }) },
    {
      name: document.fullscreenElement ? "Leave the full screen" : "Full screen",
      act: () =>
        document.fullscreenElement
          ? document.exitFullscreen()
          : document.documentElement.requestFullscreen(),
      disabled: !document.fullscreenEnabled,
    },
    { name: "Bare table", keys: "Tab", act: () => set({ bare: !useTable.getState().bare }) },
    ...stages.map((stage) => ({ name: `Stage: ${stage}`, act: () => state.chooseStage(stage) })),
    ...(Object.keys(rooms) as Room[]).map((room) => ({
      name: `Room: ${rooms[room].label}`,
      act: () => session.enter(room),
    })),
    { name: "Save the whole picture in a file", keys: `${ctrl} S`, act: () => session.save() },
    { name: "Save as another file…", keys: `${ctrl} Shift S`, act: () => session.save(true) },
    { name: "Export…", keys: `${ctrl} E`, act: () => set({ dialog: "export" }) },
    { name: "Pen and hands: pressure, buttons, fingers…", act: () => set({ dialog: "pen" }) },
    { name: "Keys and gestures", keys: "?", act: () => set({ dialog: "shortcuts" }) },
    { name: "First steps", act: showStepsAgain },
    { name: "About Pampas", act: () => set({ dialog: "about" }) },
  ];
}

export function swapColours(): void {
  const { colour, second, chooseColour, set } = useTable.getState();
  set({ second: colour });
  chooseColour(second);
}
