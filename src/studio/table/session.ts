import { Said } from "../notices/why";
import { nanoid } from "nanoid";
import { type CommandInput } from "../../engine/command/commands";
import { type PaperKind } from "../../engine/paper/bands";
import { usualFringe } from "../../engine/fringe/fringe";
import { tubesOf } from "../../engine/pigment/tubes";
import { hasFringe, type Layer } from "../../engine/picture/picture";
import { type Guide } from "../../engine/guides/guide";
import { type SunPin } from "../../engine/sun/sun-pin";
import { blendAfter, opacityAfter } from "./layers/by-key";
import { sharing } from "./layers/sharing";
import { openDatabase } from "../../storage/database";
import { Shelf } from "../../storage/shelf";
import {
  type Answer,
  type ExportChoice,
  type ExportedFile,
  type StrokeBeginning,
  type TableEvent,
} from "../../worker/protocol";
import { fitView, type Size, type View, wrapAngle } from "../../worker/view";
import { ownBrush, useBrushBox } from "../brushes/brush-box";
import { savePicture } from "../files/save";
import { stopSaving, wholePictureApart } from "../storage/save-apart";
import { fileName } from "../../worker/file-name";
import { copyName } from "../naming/copy-name";
import { type EngineLink, startEngineLink } from "../engine-link";
import { tell } from "../notices/notices";
import { rooms } from "../rooms";
import { useWorkshop } from "../workshop/workshop-store";
import { type Landing, placeUnder, topsOf } from "./layers/rows";
import { useRegion } from "./region/region-store";
import { tellWhatDried } from "./dried";
import { useTable } from "./table-store";
import { endTransform } from "./transform/transform-store";

/** Room around a picture that fits the view, and under it for the options, CSS px. */
const FIT_MARGIN = 22;
const OPTIONS_HEIGHT = 40;

/** From the upper left and a little in front, as painters light what they have not thought about yet. */
const FIRST_LIGHT = { azimuth: 2.5, height: 0.85 };

export type Single = Exclude<CommandInput, { do: "together" }>;
type NewLayer = Partial<
  Pick<Extract<Single, { do: "layer.add" }>, "kind" | "paint" | "tone" | "name">
>;

/** Commands of which it need not be said that wet paint is wet no more. */
const DRIES_KNOWINGLY: readonly CommandInput["do"][] = ["paint.dry", "layer.clear"];

/**
 * One picture on the table: every way in which the interface acts on it. What cannot be
 * done is told in a notice.
 */
export class Session {
  screen: Size = { width: 1, height: 1 };
  #fitted: View | null = null;
  #unwatch = (): void => undefined;
  #stepping: Promise<void> = Promise.resolve();
  /** Which layers were chosen when a command was given, by the place in the log that it was given at. */
  #chosenAt = new Map<number, string[]>();

  private constructor(
    readonly id: string,
    readonly link: EngineLink,
  ) {}

  /** Opens a picture. @throws Error with words for the person */
  static async open(id: string): Promise<Session> {
    const link = await startEngineLink(hear, (engine) => useTable.setState({ engine }));
    const opened = await link.api.open(id);
    if (!opened.ok) {
      link.end();
      throw new Said(opened.why);
    }
    const { state, notes } = opened.value;
    const top = state.layers.at(-1);
    useTable.setState({ picture: state, selected: top ? [top.id] : [], progress: null });
    useBrushBox.setState({
      ofPicture: state.kit.length > 0 ? await link.api.pictureBrushes() : [],
    });
    for (const note of notes) tell(note);
    if (state.readOnly)
      tell("This picture is being worked on in another tab. Here you can look at it.");
    const session = new Session(id, link);
    session.#fitsAnew();
    return session;
  }

  /** A sheet that was cut, extended or resized, or is so no more, is seen whole. */
  #fitsAnew(): void {
    this.#unwatch = useTable.subscribe(({ picture }, { picture: before }) => {
      if (!picture || picture.id !== before?.id) return;
      if (picture.width !== before.width || picture.height !== before.height) this.fit();
    });
  }

  /** The page goes away, or out of sight. */
  leave(): void {
    void this.link.api.leave();
  }

  async close(): Promise<void> {
    this.#unwatch();
    void remember({ recent: useTable.getState().recent });
    await this.link.api.close();
    this.link.end();
  }

  // ---- the view ----

  setView(asked: View): void {
    const view = { ...asked, angle: wrapAngle(asked.angle) };
    useTable.setState({ view });
    void this.link.api.setView(view);
  }

  resize(width: number, height: number): void {
    this.screen = { width, height };
    void this.link.api.resize(width, height);
  }

  fit(): void {
    const { picture, view } = useTable.getState();
    if (!picture) return;
    const ratio = window.devicePixelRatio;
    const under = useTable.getState().bare ? 0 : OPTIONS_HEIGHT * ratio;
    const { width, height } = this.screen;
    const fitted = fitView(picture, { width, height: height - under }, FIT_MARGIN * ratio);
    const next = {
      ...fitted,
      y: fitted.y + under / 2 / fitted.zoom,
      mirrored: view.mirrored,
    };
    this.setView(next);
    this.#fitted = useTable.getState().view;
  }

  /** The view has changed its size: a picture that filled it fills it again. */
  refit(): void {
    const { view } = useTable.getState();
    if (!this.#fitted || view === this.#fitted) this.fit();
    else this.setView(view);
  }

  oneToOne(): void {
    this.setView({ ...useTable.getState().view, zoom: 1 });
  }

  upright(): void {
    this.setView({ ...useTable.getState().view, angle: 0 });
  }

  mirror(): void {
    const { view } = useTable.getState();
    this.setView({ ...view, mirrored: !view.mirrored, angle: -view.angle });
  }

  /** Looks at the picture in its values, or in its colours again. Pixels never change. */
  lookAtValues(values: number | null): void {
    useTable.setState({ values });
  }

  /** What is wet shines on the table, or no longer does. Pixels never change. */
  toggleShine(): void {
    useTable.setState(({ shine }) => ({ shine: !shine }));
  }

  toggleValues(): void {
    const { values, valueSteps } = useTable.getState();
    this.lookAtValues(values === null ? valueSteps : null);
  }

  /** Strokes follow the guides, or no longer do. */
  toggleFollow(): void {
    const { follow, picture } = useTable.getState();
    if (!follow && picture?.guides.length === 0)
      tell("There are no guides yet. Add some under Guides, at the right of the tray.");
    useTable.setState({ follow: !follow, guidesShown: true });
  }

  setGuides(guides: readonly Guide[]): Promise<boolean> {
    return this.apply({ do: "guides.set", guides: [...guides] });
  }

  setSun(sun: SunPin | null): Promise<boolean> {
    return this.apply({ do: "sun.set", sun });
  }

  /** Sets a sun pin where it can be seen, or takes it away. */
  async toggleSun(): Promise<void> {
    const { picture } = useTable.getState();
    if (!picture) return;
    const at = { x: picture.width * 0.82, y: picture.height * 0.24 };
    await this.setSun(picture.sun ? null : { at, ...FIRST_LIGHT });
  }

  squint(): void {
    useTable.setState(({ squint }) => ({ squint: !squint }));
  }

  enter(room: keyof typeof rooms): void {
    useTable.setState({ room });
    document.documentElement.dataset.room = room;
    void this.link.api.setSurround(rooms[room].surround);
    void remember({ room });
  }

  /** Makes a tip of what the working layer holds in the box that was drawn. */
  async takeTip(): Promise<void> {
    const { box, selected } = useTable.getState();
    const { takesTip, making, set } = useWorkshop.getState();
    useTable.setState({ box: null });
    if (!box || !selected[0]) return;
    const answer = await this.link.api.tipFromPicture(selected[0], box, making);
    if (!answer.ok) return tell(`That is no tip: ${answer.why}. Draw the box around paint.`);
    takesTip?.(answer.value);
    set({ takesTip: null });
    useTable.setState({ tool: "brush", dialog: "workshop" });
  }

  // ---- changing the picture ----

  async apply(command: CommandInput): Promise<boolean> {
    // What is in hand is laid down before anything else is done.
    await endTransform(this, true);
    const before = useTable.getState().picture;
    const isDone = await this.changed(this.link.api.apply(command));
    if (isDone && !DRIES_KNOWINGLY.includes(command.do)) tellWhatDried(before, command.do);
    return isDone;
  }

  /** Says that something is being kept, until the engine says that it is, or refuses. */
  async changed(answer: Promise<Answer<unknown>>): Promise<boolean> {
    const { kept, picture, selected } = useTable.getState();
    // Undone, it gives back the layers that were chosen before it.
    if (picture && !this.#chosenAt.has(picture.place)) this.#chosenAt.set(picture.place, selected);
    useTable.setState({ kept: { state: "keeping" } });
    const result = await answer;
    // Work that was stopped or refused does not say that it is done.
    if (!result.ok) useTable.setState({ kept, progress: null });
    return said(result);
  }

  /** Begins a stroke. Resolves with whether it was taken up; why not is told. */
  async beginStroke(beginning: StrokeBeginning): Promise<boolean> {
    const state = useTable.getState();
    const { kept } = state;
    useTable.setState({ kept: { state: "keeping" } });
    const answer = this.link.api.beginStroke(beginning, ownBrush(beginning.brush));
    state.useColour();
    const taken = said(await answer);
    if (!taken) useTable.setState({ kept });
    return taken;
  }

  /** Ends the stroke in the making. */
  async endStroke(): Promise<void> {
    said(await this.link.api.endStroke());
  }

  /** Several commands as one step; one alone stays itself. */
  async applyAll(label: string, steps: Single[]): Promise<boolean> {
    const [first] = steps;
    if (!first) return true;
    return this.apply(steps.length === 1 ? first : { do: "together", label, steps });
  }

  async undo(): Promise<void> {
    if (!useTable.getState().picture?.undo) return;
    if (useTable.getState().tool === "transform") return endTransform(this, false);
    if (!(await this.changed(this.link.api.undo()))) return;
    const { picture } = useTable.getState();
    if (!picture) return;
    const there = new Set(picture.layers.map(({ id }) => id));
    const before = this.#chosenAt.get(picture.place)?.filter((id) => there.has(id)) ?? [];
    for (const place of this.#chosenAt.keys())
      if (place >= picture.place) this.#chosenAt.delete(place);
    if (before.length > 0) this.select(before);
  }

  async redo(): Promise<void> {
    if (!useTable.getState().picture?.redo) return;
    await endTransform(this, true);
    await this.changed(this.link.api.redo());
  }

  select(ids: string[]): void {
    const { selected, maskView } = useTable.getState();
    if (ids[0] !== selected[0]) useTable.setState({ paintOn: "colour" });
    useTable.setState({ selected: ids });
    if (maskView !== "no" && ids[0] !== selected[0]) this.showMask("no");
    if (ids[0]) void this.link.api.setWorking(ids[0]);
  }

  /** A new layer above the working one, in its group; on top of what an open group holds. */
  async addLayer(made: NewLayer = {}): Promise<string | null> {
    const id = nanoid(10);
    return (await this.addLayerWith(id, made, [])) ? id : null;
  }

  /** The same in one step with what else is done to it. */
  async addLayerWith(id: string, made: NewLayer, more: Single[]): Promise<boolean> {
    const { picture, selected } = useTable.getState();
    if (!picture) return false;
    const order = picture.layers.map((layer) => layer.id);
    const working = picture.layers.find((layer) => layer.id === selected[0]);
    const isGroup = working?.kind === "group";
    const above = working
      ? isGroup
        ? placeUnder(order, working.id)
        : working.id
      : (order.at(-1) ?? null);
    const group = (isGroup ? working.id : working?.group) ?? null;
    const name = made.name ?? freshName(picture.layers.map((layer) => layer.name));
    const add: Single = { do: "layer.add", id, above, group, ...made, name };
    // Made inside of a clip run it is clipped too; else the rest of the run would hang on it.
    const siblings = picture.layers.filter((layer) => layer.group === group);
    const over = siblings[siblings.findIndex((layer) => layer.id === above) + 1];
    const joins = above !== null && (over?.clip === true || working?.clip === true);
    const clip: Single[] = joins ? [{ do: "layer.set", id, clip: true }] : [];
    const done = await this.applyAll("add layer", [add, ...clip, ...more]);
    if (done) this.select([id]);
    return done;
  }

  /** Puts the selected layers into a new group. */
  async groupLayers(): Promise<void> {
    const layers = this.#selectedLayers().map(({ id }) => id);
    if (layers.length === 0) return;
    const id = nanoid(10);
    if (await this.apply({ do: "layer.group", id, name: "Group", layers })) this.select([id]);
  }

  async ungroupLayers(): Promise<void> {
    const groups = this.#selectedLayers().filter(({ kind }) => kind === "group");
    const layers = useTable.getState().picture?.layers ?? [];
    const inside = layers.filter(({ group }) => groups.some(({ id }) => id === group));
    const steps = groups.map(({ id }): Single => ({ do: "layer.ungroup", id }));
    if (await this.applyAll("take groups apart", steps)) this.select(inside.map(({ id }) => id));
  }

  /** Makes one layer of these; `keep` leaves them and makes a copy of what they show. */
  async mergeLayers(layers: string[], name: string, keep = false): Promise<void> {
    if (layers.length === 0) return;
    const id = nanoid(10);
    if (await this.apply({ do: "layer.merge", id, name, layers, keep })) this.select([id]);
  }

  /** A coat of fixative on the chosen layers. */
  async fixPowder(): Promise<void> {
    const { picture, selected } = useTable.getState();
    const layers = selected.filter((id) =>
      picture?.layers.some((layer) => layer.id === id && layer.kind === "paint"),
    );
    if (layers.length === 0) return tell("Choose a layer with powder on it first.");
    await this.apply({ do: "powder.fix", layers });
  }

  /** Lets the wet paint of the chosen layers dry at once. */
  async dryPaint(): Promise<void> {
    const { picture, selected } = useTable.getState();
    const fringed = picture?.layers.filter(hasFringe).map(({ id }) => id) ?? [];
    const layers = selected.filter((id) => picture?.wet.includes(id) || fringed.includes(id));
    if (layers.length === 0) return tell("The chosen layers hold no wet paint.");
    await this.apply({ do: "paint.dry", layers });
  }

  /** Reads a layer's marks as lines on a layer above it; the marks are hidden, not lost. */
  async traceLines({ id, name }: Layer): Promise<void> {
    const lines = nanoid(10);
    const steps: Single[] = [
      { do: "line.trace", layer: id, id: lines, name: `${name.slice(0, 100)}, as lines` },
      { do: "layer.set", id, visible: false },
    ];
    if (await this.applyAll("turn paint into lines", steps)) this.select([lines]);
  }

  /** Lets a layer's paint gather along its rim, or lie as it was laid. */
  async toggleFringe({ id, fringe }: Layer): Promise<void> {
    const ppi = useTable.getState().picture?.ppi ?? 0;
    await this.apply({ do: "layer.set", id, fringe: fringe ? null : usualFringe(ppi) });
  }

  /** The fringe of a layer, and what is wet on it, is left as it stands. */
  async dryFringe(id: string): Promise<void> {
    await this.apply({ do: "paint.dry", layers: [id] });
  }

  /** Squeezes every tube at hand out onto the slab, which comes out for it. */
  async squeezeTubes(): Promise<void> {
    const { picture } = useTable.getState();
    useTable.setState({ slabShown: true });
    for (const { colour } of tubesOf(picture?.tubes ?? null))
      if (!(await this.changed(this.link.api.squeeze(colour)))) return;
  }

  /** The working layer and the one right under it become one. */
  async mergeDown(): Promise<void> {
    const { picture, selected } = useTable.getState();
    const working = picture?.layers.find(({ id }) => id === selected[0]);
    if (!picture || !working) return;
    const siblings = picture.layers.filter(({ group }) => group === working.group);
    const under = siblings[siblings.indexOf(working) - 1];
    if (!under) return tell("There is no layer under this one to merge it with.");
    await this.mergeLayers([under.id, working.id], under.name);
  }

  async mergeSelected(): Promise<void> {
    const layers = this.#selectedLayers();
    const [first] = layers;
    if (first)
      await this.mergeLayers(
        layers.map(({ id }) => id),
        first.name,
      );
  }

  /** All that is seen becomes one layer; what is hidden is gone. */
  async flattenPicture(): Promise<void> {
    const tops = useTable.getState().picture?.layers.filter(({ group }) => group === null) ?? [];
    await this.mergeLayers(
      tops.map(({ id }) => id),
      "Flattened",
    );
  }

  async copyMerged(): Promise<void> {
    const tops = useTable.getState().picture?.layers.filter(({ group }) => group === null) ?? [];
    await this.mergeLayers(
      tops.map(({ id }) => id),
      "Merged copy",
      true,
    );
  }

  /** Gives the chosen layers masks, of what is selected where something is, and paints on the working one's. */
  async addMask(from?: Extract<Single, { do: "mask.add" }>["from"]): Promise<void> {
    const { picture } = useTable.getState();
    const kind = picture?.selection ? ("selection" as const) : ("nothing" as const);
    const steps = this.#selectedLayers()
      .filter(({ mask }) => !mask)
      .map(({ id }): Single => ({ do: "mask.add", id, from: from ?? { kind } }));
    if (await this.applyAll("add masks", steps)) useTable.setState({ paintOn: "mask" });
  }

  /** Takes the masks of the chosen layers away; `lay`: what they hold back goes with them. */
  async removeMask(lay: boolean): Promise<void> {
    const steps = this.#masked()
      .filter(({ kind }) => !lay || kind === "paint")
      .map(({ id }): Single => ({ do: "mask.remove", id, lay }));
    if (await this.applyAll("remove masks", steps)) {
      useTable.setState({ paintOn: "colour" });
      this.showMask("no");
    }
  }

  /** Sets whether the chosen layers' masks hold back, and whether they move with their layers. */
  async setMask(changes: Partial<NonNullable<Layer["mask"]>>): Promise<void> {
    const steps = this.#masked().map(({ id, mask }): Single => ({
      do: "layer.set",
      id,
      mask: { on: true, linked: true, ...mask, ...changes },
    }));
    await this.applyAll("set masks", steps);
  }

  async invertMask(): Promise<void> {
    const steps = this.#masked().map(({ id }): Single => ({ do: "mask.invert", id }));
    await this.applyAll("invert masks", steps);
  }

  #masked(): Layer[] {
    return this.#selectedLayers().filter(({ mask }) => mask);
  }

  /** How the working layer's mask is seen: not at all, as a veil, or alone. */
  showMask(maskView: "no" | "veil" | "alone"): void {
    const [id] = useTable.getState().selected;
    useTable.setState({ maskView });
    void this.link.api.showMask(maskView === "no" ? null : (id ?? null), maskView === "alone");
  }

  async duplicateLayers(): Promise<void> {
    const layers = this.#selectedTops();
    const made = layers.map((layer) => ({ layer, id: nanoid(10) }));
    const taken = useTable.getState().picture?.layers.map(({ name }) => name) ?? [];
    const steps = made.map(({ layer, id }): Single => {
      const name = copyName(layer.name, taken, 120);
      taken.push(name);
      return { do: "layer.copy", id: layer.id, as: id, name };
    });
    if (await this.applyAll("duplicate layers", steps)) this.select(made.map(({ id }) => id));
  }

  async removeLayers(): Promise<void> {
    const { picture } = useTable.getState();
    const layers = this.#selectedTops();
    if (!picture || layers.length === 0) return;
    const lowest = picture.layers.findIndex(({ id }) => id === layers[0]?.id);
    const steps = layers.map(({ id }): Single => ({ do: "layer.remove", id }));
    if (!(await this.applyAll("remove layers", steps))) return;
    const left = useTable.getState().picture?.layers ?? [];
    const next = left[Math.max(0, lowest - 1)] ?? left[0];
    this.select(next ? [next.id] : []);
  }

  /** A layer of what was copied, where it lay. */
  async placePicture(name: string, png: string, x: number, y: number): Promise<void> {
    const { picture, selected } = useTable.getState();
    if (!picture) return;
    const id = nanoid(10);
    const above = selected[0] ?? picture.layers.at(-1)?.id ?? null;
    const done = await this.applyAll("paste", [
      { do: "layer.add", id, name, above },
      { do: "place", layer: id, x, y, png },
    ]);
    if (done) this.select([id]);
  }

  /** What is selected of a layer of paint goes to one of its own above it, with its powder and all that it is. */
  async floatPaint({ id: layer, lines }: Layer): Promise<void> {
    const id = nanoid(10);
    const done = await this.applyAll("float", [
      { do: "layer.copy", id: layer, as: id, name: "Floating" },
      { do: "layer.clear", id: layer },
      { do: "layer.clear", id, outside: true },
      { do: "select.none" },
      // Two sources would hold the same flats.
      ...(lines ? [{ do: "layer.set", id, lines: false } as const] : []),
    ]);
    if (done) this.select([id]);
  }

  /** What is selected of a layer goes to one of its own above it, as a picture of it. */
  async floatPicture(layer: string, png: string, x: number, y: number): Promise<void> {
    const id = nanoid(10);
    const done = await this.applyAll("float", [
      { do: "layer.clear", id: layer },
      { do: "select.none" },
      { do: "layer.add", id, name: "Floating", above: layer },
      { do: "place", layer: id, x, y, png },
    ]);
    if (done) this.select([id]);
  }

  /** Clears the chosen layers where something is selected there alone, or, `outside`, around it. */
  async clearLayers(outside = false): Promise<void> {
    await this.applyAll(
      outside ? "clear around what is selected" : "clear layers",
      this.#selectedLayers().map(({ id }): Single => ({
        do: "layer.clear",
        id,
        ...(outside ? { outside } : {}),
      })),
    );
  }

  /** Sets properties of the chosen layers, or of those of one kind among them. */
  async setLayers(
    changes: Omit<Extract<Single, { do: "layer.set" }>, "do" | "id">,
    kind?: Layer["kind"],
  ): Promise<void> {
    const layers = this.#selectedLayers().filter((layer) => !kind || layer.kind === kind);
    await this.applyAll(
      "set layers",
      layers.map(({ id }): Single => ({ do: "layer.set", id, ...changes })),
    );
  }

  /** Shows or hides a layer, and all chosen ones with it where it is among them. */
  async setVisible(id: string, visible: boolean): Promise<void> {
    if (useTable.getState().selected.includes(id)) await this.setLayers({ visible });
    else await this.apply({ do: "layer.set", id, visible });
  }

  /** The chosen layers a step more or less opaque. */
  changeOpacity(by: 1 | -1): Promise<void> {
    return this.#stepLayers((first) => ({ opacity: opacityAfter(first, by) }));
  }

  /** The chosen layers in the next blend mode, or the one before. */
  changeBlend(by: 1 | -1): Promise<void> {
    return this.#stepLayers((first) => ({ blend: blendAfter(first, by) }));
  }

  /** Steps follow each other, however quickly the key is pressed: each goes on from the one before. */
  #stepLayers(next: (first: Layer) => Parameters<Session["setLayers"]>[0]): Promise<void> {
    this.#stepping = this.#stepping.then(async () => {
      const [first] = this.#selectedLayers();
      if (first) await this.setLayers(next(first));
    });
    return this.#stepping;
  }

  /** Moves the selected layers, keeping their order, one place up or down in their group. */
  async nudgeLayers(by: 1 | -1): Promise<void> {
    const { picture } = useTable.getState();
    const layers = this.#selectedLayers();
    const [first] = layers;
    if (!picture || !first) return;
    const ids = new Set(layers.map(({ id }) => id));
    const siblings = picture.layers.filter(({ group }) => group === first.group);
    const moved = siblings.filter(({ id }) => ids.has(id));
    const edge = siblings.indexOf((by > 0 ? moved.at(-1) : moved[0]) as (typeof siblings)[number]);
    const beyond = siblings[edge + by];
    if (!beyond) return;
    const rest = picture.layers.map(({ id }) => id).filter((id) => !ids.has(id));
    const above = by > 0 ? beyond.id : placeUnder(rest, beyond.id);
    await this.#stackOn(
      moved.map(({ id }) => id),
      above,
      first.group,
    );
  }

  /** Moves layers to where they were dropped in the list. */
  async moveLayers(ids: string[], { group, under }: Landing): Promise<void> {
    const layers = useTable.getState().picture?.layers ?? [];
    const moving = topsOf(layers, ids).map(({ id }) => id);
    const rest = layers.map(({ id }) => id).filter((id) => !moving.includes(id));
    await this.#stackOn(moving, placeUnder(rest, under), group);
  }

  async #stackOn(ids: string[], from: string | null, group: string | null): Promise<void> {
    let above = from;
    const steps = ids.map((id): Single => {
      const step: Single = { do: "layer.move", id, above, group };
      above = id;
      return step;
    });
    await this.applyAll("move layers", steps);
  }

  /** The chosen layers, bottom first. */
  #selectedLayers(): Layer[] {
    const { picture, selected } = useTable.getState();
    return picture?.layers.filter(({ id }) => selected.includes(id)) ?? [];
  }

  /** Without those that lie in a chosen group. */
  #selectedTops(): Layer[] {
    const { picture, selected } = useTable.getState();
    return topsOf(picture?.layers ?? [], selected);
  }

  /** All of the working layer that has the second colour takes the first. */
  async replaceColour(): Promise<void> {
    const { selected, colour, second } = useTable.getState();
    const [layer] = selected;
    if (layer) await this.apply({ do: "colour.replace", layer, from: second, to: colour });
  }

  /** What a shading help is laid on: the chosen layers that hold paint. */
  async #onEachPaint(
    label: string,
    step: (layer: string, id: string) => Single,
    isNew = true,
  ): Promise<void> {
    const layers = this.#selectedLayers().filter(({ kind }) => kind === "paint");
    const made = layers.map((layer) => ({ layer: layer.id, id: nanoid(10) }));
    const steps = made.map(({ layer, id }) => step(layer, id));
    if (await this.applyAll(label, steps)) if (isNew) this.select(made.map(({ id }) => id));
  }

  /** A rim of the colour in hand along what the chosen layers hold, on layers of its own. */
  edgeBand(width: number, soft: number): Promise<void> {
    const { colour } = useTable.getState();
    const name = "Edge band";
    return this.#onEachPaint("edge bands", (layer, id) => ({
      do: "edge.band",
      layer,
      id,
      name,
      width,
      soft,
      colour,
    }));
  }

  /** What the chosen layers hold, in even steps of strength. */
  shadeSteps(steps: number): Promise<void> {
    const step = (layer: string): Single => ({ do: "shade.steps", layer, steps });
    return this.#onEachPaint("shade in steps", step, false);
  }

  /** The grain of a paper in the colour in hand over what the chosen layers hold. */
  texture(kind: PaperKind): Promise<void> {
    const { colour } = useTable.getState();
    const paper = { kind, scale: TEXTURE_SCALE };
    const name = "Texture";
    return this.#onEachPaint("textures", (layer, id) => ({
      do: "texture",
      layer,
      id,
      name,
      paper,
      colour,
    }));
  }

  /**
   * Haze in the colour in hand that thickens with distance, as a fill layer over all that is
   * seen: the working layer is the depth picture, and is hidden.
   * @param far whether what is far away is light or dark in it
   */
  async haze(far: "light" | "dark"): Promise<void> {
    const { selected, colour, picture } = useTable.getState();
    const [depth] = selected;
    if (!depth || !picture) return;
    const id = nanoid(10);
    const above = picture.layers.at(-1)?.id ?? null;
    const paint = { kind: "colour" as const, colour };
    const done = await this.applyAll("haze by distance", [
      { do: "layer.add", id, name: "Haze", above, kind: "fill", paint },
      { do: "mask.add", id, from: { kind: "layer", layer: depth, by: far } },
      { do: "layer.set", id: depth, visible: false },
    ]);
    if (done) this.select([id]);
  }

  // ---- selecting ----

  selectShape(
    shape: Extract<Single, { do: "select" }>["shape"],
    how = useRegion.getState().joining,
  ): Promise<boolean> {
    return this.apply({ do: "select", how, shape });
  }

  async selectNone(): Promise<void> {
    if (useTable.getState().picture?.selection) await this.apply({ do: "select.none" });
  }

  changeSelection(change: Extract<Single, { do: "select.change" }>["change"]): Promise<boolean> {
    return this.apply({ do: "select.change", change });
  }

  keepSelection(name: string): Promise<boolean> {
    return this.apply({ do: "select.keep", id: nanoid(10), name });
  }

  /** From the line source to a new layer of flats under it, in one step. */
  async layFlats(): Promise<void> {
    const { picture } = useTable.getState();
    if (!picture) return;
    const { borders, tolerance, bridge, hues, bare } = useRegion.getState();
    const lines = picture.layers.findIndex((layer) => layer.lines);
    const above = lines > 0 ? (picture.layers[lines - 1]?.id ?? null) : null;
    const id = nanoid(10);
    const reading = {
      borders: borders === "layer" ? ("lines" as const) : borders,
      tolerance,
      bridge,
    };
    useTable.setState({ progress: { label: "Laying flats", share: 0 } });
    const done = await this.apply({
      do: "flats",
      id,
      name: "Flats",
      above,
      hues,
      bare,
      ...reading,
    });
    useTable.setState({ progress: null });
    if (!done) return;
    this.select([id]);
    // The next taps change a flat's colour.
    useRegion.getState().set({ borders: "layer", what: "tap" });
    useTable.setState({ tool: "fill" });
  }

  // ---- files ----

  async exportFile(choice: ExportChoice): Promise<ExportedFile | null> {
    const answer = await this.link.api.exportFile(choice);
    useTable.setState({ progress: null });
    if (answer.ok) return answer.value;
    tell(answer.why);
    return null;
  }

  /**
   * Saves the picture in a file: where it was saved before, or where the person says.
   * @param elsewhere whether it is to be another file
   */
  async save(elsewhere = false): Promise<void> {
    const title = useTable.getState().picture?.title ?? "Picture";
    const make = (): Promise<ExportedFile | null> => this.#whole(title);
    await savePicture({ id: this.id, title, make }, elsewhere ? "other" : "same");
  }

  /** The picture's file, made beside the work where all of it is in store, else from what is in memory. */
  async #whole(title: string): Promise<ExportedFile | null> {
    const ready = await this.link.api.readyToSave();
    if (!ready.ok || !ready.value) return this.exportFile({ format: "whole" });
    const told = (label: string, share: number): void =>
      useTable.setState({ progress: { label, share } });
    try {
      const bytes = await wholePictureApart(this.id, told);
      if (!bytes) tell("Stopped. Nothing was written.");
      return bytes && { name: fileName(title, "ora"), type: "image/openraster", bytes };
    } catch (error) {
      console.error(error);
      return await this.exportFile({ format: "whole" });
    } finally {
      useTable.setState({ progress: null });
    }
  }

  /** Long work that the person has had enough of. */
  stopLongWork(): void {
    if (!stopSaving()) this.link.pen.askToStop();
  }

  async bringIn(file: File): Promise<void> {
    const answer = await this.link.api.bringIn(file.name, new Uint8Array(await file.arrayBuffer()));
    if (answer.ok) {
      this.select([answer.value.layer]);
      if (answer.value.note) tell(answer.value.note);
    } else tell(`“${file.name}” was not brought in: ${answer.why}.`);
  }

  async rename(title: string): Promise<void> {
    await this.link.api.rename(title);
  }
}

/** Grain of a texture that is seen in a whole picture, not only up close. */
const TEXTURE_SCALE = 2;

/** Keeps settings for the next time. */
export async function remember(changes: Parameters<Shelf["changeSettings"]>[0]): Promise<void> {
  const db = await openDatabase();
  await new Shelf(db).changeSettings(changes);
  db.close();
}

function said(answer: Answer<unknown>): boolean {
  if (!answer.ok) tell(answer.why);
  return answer.ok;
}

function freshName(names: readonly string[]): string {
  let n = names.length + 1;
  while (names.includes(`Layer ${n}`)) n++;
  return `Layer ${n}`;
}

function hear(event: TableEvent): void {
  const { freshness, selected } = useTable.getState();
  if (event.type === "state") {
    const ids = new Set(event.state.layers.map(({ id }) => id));
    const still = selected.filter((id) => ids.has(id));
    const fallback = event.state.layers.at(-1)?.id;
    const before = useTable.getState().picture?.layers ?? [];
    useTable.setState({
      picture: { ...event.state, layers: sharing(before, event.state.layers) },
      selected: still.length > 0 || !fallback ? still : [fallback],
    });
  } else if (event.type === "kept") {
    useTable.setState({ kept: event.kept });
    if (event.kept.state === "kept" && event.kept.note) tell(event.kept.note);
  } else if (event.type === "told") tell(event.text);
  else if (event.type === "brush-carries")
    useTable.setState(({ carried }) => ({
      carried: { ...carried, [event.brush]: event.carried },
    }));
  else if (event.type === "dries") useTable.setState({ dries: event.left });
  else if (event.type === "view-busy") useTable.setState({ viewBusy: event.isBusy });
  else if (event.type === "selection-changed") useRegion.getState().stir();
  else if (event.type === "progress")
    useTable.setState({ progress: { label: event.label, share: event.share } });
  else {
    const changed = event.ids.map((id) => [id, (freshness[id] ?? 0) + 1] as const);
    useTable.setState({ freshness: { ...freshness, ...Object.fromEntries(changed) } });
  }
}
