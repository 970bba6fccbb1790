import { type PdfChoice } from "../engine/file/print/pdf";
import { type Rendering } from "../engine/file/print/tones";
import { type Tilt } from "../engine/water/wash-state";
import { type Lays } from "../engine/compose/blend-modes";
import { type CommandInput } from "../engine/command/commands";
import { type Paper } from "../engine/paper/paper";
import { type KeptSelection, type Layer } from "../engine/picture/picture";
import { type RegionChoice, type RegionLook } from "./region-look";
import { type Kept } from "../storage/journal";
import { type Guide } from "../engine/guides/guide";
import { type Wells } from "../engine/colour/wells";
import { type Eyes, type Holes } from "./crit";
import { type Histogram } from "../engine/crit/histogram";
import { type Stencil } from "../engine/stencil/stencil";
import { type Carried } from "../engine/oil/carried";
import { type Care, type Dip } from "./brushes-in-hand";
import { type Panels } from "../engine/panels/panels";
import { type Studies } from "../engine/studies/studies";
import { type Shape } from "../engine/file/shape/shape";
import { type Scene } from "../engine/scene/scene";
import { type Onto } from "../engine/scene/camera";
import { type SunPin } from "../engine/sun/sun-pin";
import { type NewPicture } from "./new-picture";
import { type Study } from "./study";
import { type Brush } from "../engine/stroke/brush";
import { type TipPicture } from "../engine/stroke/tip";
import { type TipMaking } from "../engine/stroke/tip-from";
import { type Box } from "../engine/tiles/layout";
import { type Filter } from "../engine/transform/filters";
import { type Warp } from "../engine/transform/warp";
import { type LiftedPicture } from "./lifted-picture";
import { type Painted, type TrialSheet } from "./cards";
import { type OwnSet, type Strew } from "../engine/strew/strew";
import { type PieceChoice, type PieceLook } from "./strewn";
import { type Trial, type TrialChoice } from "./trial";
import { type Snapshot } from "./snapshot";
import { type Picking } from "./picking";
import { type StencilPicture } from "./stencil-picture";
import { type LineChoice, type LineLook } from "./lines";
import { type View } from "./view";

/** What the table needs to know of the picture on it. */
export type PictureState = {
  id: string;
  title: string;
  width: number;
  height: number;
  ppi: number;
  /** Bottom first. */
  layers: readonly Layer[];
  /** Ids of the layers whose paint can still be moved, and of those with paint that stands up. */
  wet: readonly string[];
  raised: readonly string[];
  /** Whether nothing is on the slab. */
  slabIsBare: boolean;
  ground: string;
  paper: Paper;
  /** Ids of the brushes that were brought into the picture. */
  kit: string[];
  guides: readonly Guide[];
  sun: SunPin | null;
  /** Solids that a place is blocked out with; null: there are none. */
  scene: Scene | null;
  /** Sets of pieces that were made in the picture. */
  strewn: readonly OwnSet[];
  /** The frames of a sheet of studies; null where it is none. */
  studies: Studies | null;
  /** The panels of a comic page; null where it has none. */
  panels: Panels | null;
  /** Whether there is a selection. */
  selection: boolean;
  /** Selections that were kept. */
  kept: readonly KeptSelection[];
  stencils: readonly Stencil[];
  wells: readonly Wells[];
  /** Names of the tubes at hand; null: all. */
  tubes: readonly string[] | null;
  /** How the sheet is tilted. */
  tilt: Tilt;
  /** What to say before its log is painted anew, where another engine drew it. */
  otherEngine: string | null;
  /** How many commands of the log are in force. */
  place: number;
  undo: string | null;
  redo: string | null;
  /** Another tab is working on it. */
  readOnly: boolean;
};

/** How the picture is looked at. `values`: null in colour, 0 in greys, 2…7 in so many steps; `shine`: what is wet shines. */
export type Looking = { values: number | null; shine: boolean };

export type TableEvent =
  | { type: "state"; state: PictureState }
  | { type: "kept"; kept: Kept }
  /** `share` 0…1; null where nobody knows how far it is. */
  | { type: "progress"; label: string; share: number | null }
  /** A change of the whole view takes its time, or is there. */
  | { type: "view-busy"; isBusy: boolean }
  /** Something for the person to read. */
  | { type: "told"; text: string }
  /** Something else is selected. */
  | { type: "selection-changed" }
  /** What is on a brush now. */
  | { type: "brush-carries"; brush: string; carried: Carried }
  /** Seconds until layers are dry, about. */
  | { type: "dries"; left: Record<string, number> }
  /** Pixels of these layers changed. */
  | { type: "layers-changed"; ids: string[] };

/** How an event travels, beside the answers to calls. */
export type TableMessage = { event: TableEvent };

/** An answer that may be a refusal: said in words, not thrown. */
export type Answer<T = null> = { ok: true; value: T } | { ok: false; why: string };

export type ExportChoice =
  | { format: "png"; rendering: Rendering }
  /** `pages`: each layer on a page of its own, after the whole. */
  | { format: "tiff"; rendering: Rendering; pages: boolean }
  | { format: "pdf"; rendering: Rendering; page: PdfChoice }
  | { format: "jpeg" | "webp"; rendering: Rendering; quality: number }
  /** `merges`: what other programs cannot show is merged, so that it looks the same everywhere. */
  | { format: "ora"; merges: boolean }
  /** The lines of the line layers that are seen. */
  | { format: "svg" }
  /** All of it, to be opened again as it is. */
  | { format: "whole" }
  | { format: "log" };

export type ExportedFile = { name: string; type: string; bytes: Uint8Array<ArrayBuffer> };

export type StrokeBeginning = {
  layer: string;
  /** Whether the layer's colour is painted on, or its mask. */
  on: "colour" | "mask";
  brush: string;
  mode: "paint" | "lift" | "blend";
  size: number;
  strength: number;
  colour: string;
  second: string;
  seed: number;
  steady: number;
  scale: number;
  takes: "layer" | "below";
  lays: Lays;
  /** The share of thinner in oil. */
  thinner: number;
  /** Water in a brush for washes, beside what is usual for it. */
  water: number;
  /** Whether its brush goes on with what is on it, where it can carry anything. */
  keepsPaint: boolean;
  /** The study that it stays in. */
  frame?: number;
  /** On a layer of strewn pieces: how they are strewn. */
  strew?: Strew;
};

/** What was copied: a PNG, and its place on the sheet. */
export type Clipping = {
  png: Uint8Array<ArrayBuffer>;
  x: number;
  y: number;
  width: number;
  height: number;
};

export type PinPicture = { width: number; height: number; png: Uint8Array };

export type Thumbnail = { width: number; height: number; data: Uint8ClampedArray<ArrayBuffer> };

/** A picture that came out of a file; `isWhole`: it is all that the file holds, so that it can be saved there again. */
export type BroughtIn = { id: string; notes: string[]; isWhole: boolean };

/** What the worker of a table does for its page. */
export type TableApi = {
  connect(pen: SharedArrayBuffer): Promise<void>;
  open(id: string): Promise<Answer<{ state: PictureState; notes: string[] }>>;
  attach(canvas: OffscreenCanvas, surround: string): void;
  resize(width: number, height: number): void;
  setView(view: View): void;
  setSurround(colour: string): void;
  /** A small canvas on which the whole picture is kept live; null: none is wanted. */
  attachFarView(canvas: OffscreenCanvas | null): void;
  /** A canvas on which the slab is seen; null: it is put away. */
  attachSlab(canvas: OffscreenCanvas | null, surround: string): void;
  resizeSlab(width: number, height: number): void;
  setSlabView(view: View): void;
  /** The colour of the paint at a place of the slab; null where it is bare. */
  slabColourAt(x: number, y: number, radius: number): string | null;
  /** Squeezes paint out onto the slab, where there is room. */
  squeeze(colour: string): Answer;
  /** Dips, wipes or rinses a brush. */
  careFor(brush: string, care: Care, dip: Dip): void;
  /** Gets ready what washes need of the paper, so that the first of them does not wait for it. */
  prepareWash(): void;
  setLooking(looking: Looking): void;
  setWorking(layer: string): void;
  apply(command: CommandInput): Promise<Answer>;
  /** Shows layers with another opacity while it is being chosen; the next command ends it. */
  previewOpacity(layers: string[], opacity: number): void;
  /** Shows the picture as it would be with other layers; null: as it is. `limited`: the last kept to the selection. */
  previewLayers(layers: readonly Layer[] | null, limited: string | null): void;
  /** Shows what a command would do, whole and exactly, until anything else is done; null: the picture as it is. */
  tryOut(command: CommandInput | null): Promise<Answer>;
  /** Shows a layer's mask: as a veil over the picture, or alone; null: not. */
  showMask(layer: string | null, alone: boolean): void;
  /** How often each value is met: reds, greens, blues and lightness in 64 steps, each to its own most. */
  histogram(layer: string | null): Answer<Histogram>;
  /** Colours that stand for the picture, or for what is selected; bare paper is left out. */
  paletteFrom(count: number): Answer<string[]>;
  /** Colours that stand for a picture in a file. */
  paletteOfFile(bytes: Uint8Array, count: number): Promise<Answer<string[]>>;
  /** Where contrast of light and of chroma pulls the eye. */
  eyePull(): Answer<Eyes>;
  /** What can be undone, oldest first. */
  historySteps(): string[];
  /** The whole picture as it was so many steps ago. */
  seenBefore(steps: number): Answer<Snapshot>;
  /** Pixels that are bare inside of what is painted. */
  holes(): Answer<Holes>;
  /** `own`: the brush itself where it is none of those that ship; it is brought into the picture first. */
  beginStroke(beginning: StrokeBeginning, own: Brush | null): Answer;
  endStroke(): Answer;
  /** What a fill or a selection would take at a place; null where there is a border. */
  lookAtRegion(
    x: number,
    y: number,
    choice: RegionChoice,
    leaks: boolean,
  ): Answer<RegionLook | null>;
  /** The line of a layer whose ink is nearest to a place, within so many px; null where there is none. */
  lookAtLine(layer: string, x: number, y: number, within: number): Answer<LineLook | null>;
  /** Lines by their numbers; those that are gone are left out. */
  /** The lines of a layer as a signature to be kept. */
  signatureOf(layer: string): Answer<string>;
  /** A kept signature as lines for this sheet. */
  signatureOn(kept: string, colour: string): Answer<string>;
  lookAtLines(layer: string, ids: readonly number[]): Answer<LineLook[]>;
  chooseLines(layer: string, choice: LineChoice): Answer<number[]>;
  /** Strewn pieces by their numbers; those that are gone are left out. */
  lookAtPieces(layer: string, ids: readonly number[]): Answer<PieceLook[]>;
  choosePieces(layer: string, choice: PieceChoice): Answer<number[]>;
  /** Pictures of a set that can be strewn, as a card shows them. */
  setCard(set: number): Answer<Painted>;
  /** Gives back what looking at regions holds. */
  lookAway(): void;
  /** The selection's outline in a view, as a picture whose alpha it is; null where nothing is selected. */
  selectionOutline(view: View, width: number, height: number): Promise<Blob | null>;
  /** Whether a layer has paint where something is selected; without a selection, anywhere. */
  hasSelected(layer: string): boolean;
  /** What is selected of layers (of all that is seen: null) as a PNG, and where it lies. */
  copySelected(layers: readonly string[] | null): Answer<Clipping>;
  /** Takes hold of what layers hold (in a box, where one is given) to move, scale, turn or bend it. */
  beginTransform(layers: string[], box: Box | null): Answer<LiftedPicture>;
  /** The piece is dragged: the table shows the layers without it. */
  takeUp(): Answer;
  /** The piece is put down there; null: where it was. */
  putDown(warp: Warp | null, filter: Filter): Answer;
  endTransform(keep: boolean): Answer;
  undo(): Promise<Answer<string | null>>;
  redo(): Answer<string | null>;
  rename(title: string): Promise<void>;
  layerThumbnail(id: string, width: number, height: number): Thumbnail;
  /** The colour at a place: see {@link pickedColour}. */
  colourAt(x: number, y: number, picking: Picking): string | null;
  card(brush: Brush, colours: Pick<TrialSheet, "ground" | "colour" | "second">): Answer<Painted>;
  tryBrush(brush: Brush, choice: TrialChoice): Answer<Trial>;
  /** What each frame of a sheet of studies shows. */
  lookAtStudies(): Answer<Study[]>;
  /** A new picture of full size that begins with a study, scaled. Answers its id. */
  carryOver(frame: number): Promise<Answer<string>>;
  /** The brushes that were brought into the picture. */
  pictureBrushes(): Brush[];
  /** A tip's picture from what a layer holds in a box. */
  tipFromPicture(layer: string, box: Box, making: TipMaking): Answer<TipPicture>;
  tipFromFile(bytes: Uint8Array, making: TipMaking): Promise<Answer<TipPicture>>;
  /** A shape for the scene from an OBJ or glTF file. */
  shapeFromFile(bytes: Uint8Array): Promise<Answer<Shape>>;
  /** A scene as it would be seen on so many pixels, RGBA; `fine`: with its shadows and soft edges. */
  lookAtScene(
    scene: Scene,
    choice: { onto: Onto; width: number; height: number; fine: boolean },
  ): Answer<Uint8ClampedArray<ArrayBuffer>>;
  /** The least box around all that is painted and seen, px; null where nothing is. */
  paintBox(): Box | null;
  /** The least box around what is selected; null where nothing is. */
  selectionBox(): Box | null;
  exportFile(choice: ExportChoice): Promise<Answer<ExportedFile>>;
  /** The layer that it became, and what is to be said of it. */
  bringIn(name: string, bytes: Uint8Array): Promise<Answer<{ layer: string; note: string | null }>>;
  /** What a paper made from a file's picture holds: see `Paper.picture`. */
  paperFromFile(bytes: Uint8Array): Promise<Answer<string>>;
  /** Cuts a stencil from a file's picture: from its shape, or from its darks where it has no bare parts. */
  cutStencil(id: string, name: string, bytes: Uint8Array): Promise<Answer>;
  stencilPicture(id: string): Answer<StencilPicture>;
  /** A file's picture as one that can be pinned beside the work. */
  readPin(bytes: Uint8Array): Promise<Answer<PinPicture>>;
  /** All that is done is put in store, where another thread can take it from. @returns whether it could be */
  readyToSave(): Promise<Answer<boolean>>;
  tryKeepingAgain(): Promise<void>;
  /** The page goes away: ends the stroke in the making and stores what waits. */
  leave(): Promise<void>;
  /** Resolves when all in view is painted and all finished work is in store. */
  settled(): Promise<void>;
  close(): Promise<void>;

  create(picture: NewPicture): Promise<Answer<string>>;
  importPicture(name: string, bytes: Uint8Array): Promise<Answer<BroughtIn>>;
  /** A reference painted from a work log. */
  paintPin(log: string): Promise<Answer<PinPicture>>;
  /** Puts a sample in store; what was painted of it beforehand is taken, else its log is painted. */
  makeSample(
    name: string,
    title: string,
    log: string,
    painted: Uint8Array | null,
  ): Promise<Answer<string>>;
};

export type { Kept, Layer, View };
