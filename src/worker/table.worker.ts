import "../engine/plain-zod";
import * as Comlink from "comlink";
import { nanoid } from "nanoid";
import { type Command, type CommandInput, parseCommand } from "../engine/command/commands";
import { type WorkLog, readWorkLog } from "../engine/command/work-log";
import { type Damage, type Work, type WorkEvents } from "../engine/command/work";
import { toValues } from "../engine/crit/values";
import { Compositor } from "../engine/compose/compositor";
import { shineOver } from "../engine/water/shine";
import { type Engine } from "../engine/engine";
import { layerPages } from "../engine/file/print/layer-pages";
import { stampJpeg, stampWebp } from "../engine/file/print/stamp";
import { writeTiff } from "../engine/file/print/tiff";
import { outSize } from "../engine/file/print/tones";
import { paintLog, writePicturePng } from "../engine/file/render";
import { onSheet as linesOnSheet, svgCommands } from "../engine/file/svg/read";
import { writeSvg } from "../engine/file/svg/write";
import { writeOpenRaster } from "../engine/file/openraster/write";
import { newHeader } from "../engine/picture/header";
import { type Paper } from "../engine/paper/paper";
import { standsUp } from "../engine/oil/drying";
import { STEPS_A_SECOND } from "../engine/time/time";
import { MOVED_PLANES } from "../engine/time/wet-state";
import { linesOf } from "../engine/lines/line-set";
import { signatureOf, signatureOn } from "../engine/lines/signature";
import { previewOf } from "../engine/scene/preview";
import { contentBox } from "../engine/transform/bounds";
import { type Box, emptyBox, growBox } from "../engine/tiles/layout";
import { SELECTION } from "../engine/picture/picture";
import { toBase64 } from "../engine/file/base64";
import { Refusal, Stopped } from "../engine/picture/refusal";
import { readPng } from "../engine/file/png";
import { Connection } from "../storage/connection";
import { type Kept } from "../storage/journal";
import { PinBox } from "../storage/pins";
import { type Whole } from "../storage/whole-picture";
import { wholePictureFile } from "./whole";
import { Keeper } from "../storage/keeper";
import { forgetOldSteps } from "../storage/steps-back";
import { readPainted } from "../storage/painted";
import { type PictureRecord } from "../storage/records";
import { pictureLock, Shelf, SHELF_CHANNEL } from "../storage/shelf";
import { kindOf, layersOf, onSheet, sizeNote } from "./bring-in";
import { readApart, type ReadFile } from "./reading-apart";
import { brushesOnlyIn, brushOf, findBrush } from "../engine/media";
import { type Brush, carries, isForWash, isForWet } from "../engine/stroke/brush";
import { tipFrom } from "../engine/stroke/tip-from";
import { paintCard } from "./cards";
import { Display, type Look, type Over } from "./display";
import { fileName } from "./file-name";
import { FarView } from "./far-view";
import { PenReader } from "./pen-ring";
import {
  type Answer,
  type ExportChoice,
  type ExportedFile,
  type Looking,
  type PictureState,
  type TableApi,
  type TableEvent,
  type TableMessage,
} from "./protocol";
import { carryOver, lookAtStudies, studiesLog, studyTitle } from "./study";
import { startEngine } from "./start-engine";
import { stencilPicture } from "./stencil-picture";
import { snapshotOf } from "./snapshot";
import { pictureState } from "./picture-state";
import { choiceOfLines, lookAtLine, lookAtLines } from "./lines";
import { choiceOfPieces, lookAtPieces, setCard } from "./strewn";
import { pickedColour } from "./picking";
import { layerPixels } from "./layer-pixels";
import { outline } from "./ants";
import { paletteFrom } from "../engine/colour/palette-from";
import { coloursOfPixels, histogramOf, sampledColours } from "./counting";
import { eyePull, holesOf } from "./crit";
import { Overlaid } from "./overlaid";
import { SLAB } from "../engine/slab/slab";
import { BrushesInHand } from "./brushes-in-hand";
import { DryingByItself } from "./drying";
import { placeToSqueeze, slabColourAt, SlabTable } from "./slab-table";
import { copySelected, hasSelected } from "./clipping";
import { RegionLooker } from "./region-look";
import { tryBrush } from "./trial";
import { layerThumbnail, PictureThumbnail } from "./thumbnail";
import { Transforming } from "./transforming";

/** How long the hand must rest before work in the background begins, ms. */
const REST = 1500;
const IDLE_CHECK = 500;
/** How often the page is shown that this thread lives, ms. */
const BEAT = 500;
/** How long to wait before storing is tried again after it failed, ms. */
const AGAIN_AFTER = 5000;
const TIDY = 24;
/** Steps of earlier sessions that are made ready to be undone while the hand rests. */
const READY_STEPS = 30;
/** How long a step of time lasts, and how often time that passes is noted in the journal, ms. */
const STEP_MS = 1000 / STEPS_A_SECOND;
const NOTED_EVERY = 1000;
/** A log so short is repeated on opening as soon as its tiles would be read. */
const FEW_STEPS = 48;
const LAYING_OUT = "Laying out the sheet";

const giveWay = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/** A picture on the table and all that serves it. */
type OnTable = {
  id: string;
  title: string;
  work: Work;
  keeper: Keeper;
  compositor: Compositor;
  thumbnail: PictureThumbnail;
  readOnly: boolean;
  release: () => void;
};

const connection = new Connection();
const engineReady: Promise<Engine> = startEngine();
let engine: Engine;
let table: OnTable | null = null;
let display: Display | null = null;
/** What the picture looked like when it was last put by: seen until its view is there. */
let coarse: ImageBitmap | null = null;
let farView: FarView | null = null;
let looking: Looking = { values: null, shine: true };
let pen: PenReader | null = null;
let transforming: Transforming | null = null;
let looker: RegionLooker | null = null;
let overlaid: Overlaid | null = null;
let slab: SlabTable | null = null;
let hands = new BrushesInHand();
let drying = new DryingByItself(0);
/** The colour that the stroke in the making was begun with. */
let strokeColour = "";
/** That all is kept, held back because something is being drawn. */
let untold: Kept | null = null;
let lastActivity = 0;
let triedAt = 0;

/**
 * Tells the page. Goes the same way as answers do, so that a page hears of a change before
 * it hears that the change was made.
 */
function tellPage(event: TableEvent): void {
  self.postMessage({ event } satisfies TableMessage);
}

function theTable(): OnTable {
  if (!table) throw new Refusal("no picture is open");
  return table;
}

function writable(): OnTable {
  const open = theTable();
  if (open.readOnly)
    throw new Refusal(
      "This picture is open in another tab. Work on it there, or close it there first.",
    );
  return open;
}

function answered<T>(act: () => T): Answer<T> {
  lastActivity = performance.now();
  try {
    return { ok: true, value: act() };
  } catch (error) {
    return { ok: false, why: inWords(error) };
  }
}

async function answer<T>(act: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await act() };
  } catch (error) {
    return { ok: false, why: inWords(error) };
  }
}

/** As `answered`, for what is only looked at: the hand may be said to rest. */
function tried<T>(act: () => T): Answer<T> {
  try {
    return { ok: true, value: act() };
  } catch (error) {
    return { ok: false, why: inWords(error) };
  }
}

/**
 * Makes sure that the picture has a brush as it is now, one that ships too: its log brings along all that
 * it needs, so a brush that changes later leaves it as it was.
 */
function bringBrush(brush: Brush | undefined): void {
  const { work } = writable();
  if (!brush) return;
  const known = work.picture.structure.brushes[brush.id];
  if (known && JSON.stringify(known) === JSON.stringify(brush)) return;
  work.apply({ do: "brush.bring", brush });
}

function inWords(error: unknown): string {
  if (error instanceof Refusal || error instanceof RangeError) return error.message;
  console.error(error);
  return "Something went wrong. The picture is as it was. Try again, or open it again.";
}

const stateNow = (): PictureState => pictureState(theTable());

const tellState = (): void => tellPage({ type: "state", state: stateNow() });

/** Joins what several listeners want to hear. */
function joined(...all: WorkEvents[]): WorkEvents {
  return {
    damaged: (damage) => all.forEach((events) => events.damaged?.(damage)),
    restructured: (before, after) => all.forEach((events) => events.restructured?.(before, after)),
    logged: (command, place) => all.forEach((events) => events.logged?.(command, place)),
    stepped: (place) => all.forEach((events) => events.stepped?.(place)),
    progressed: (label, share) => all.forEach((events) => events.progressed?.(label, share)),
    inVain: (command) => all.forEach((events) => events.inVain?.(command)),
    carried: (brush, carried) => all.forEach((events) => events.carried?.(brush, carried)),
  };
}

/** Whether these are planes of a selection, which is not seen in the picture. */
const isMask = (layer: string): boolean => layer.startsWith("(");

function showDamage({ layer, plane, keys }: Damage): void {
  // Wet paint is seen in the colour and the relief that go with it.
  if (!table || MOVED_PLANES.includes(plane)) return;
  if (layer === SLAB) return slab?.changed(keys);
  drying.touched(layer, performance.now());
  if (layer === SELECTION && !table.work.isDrawing) tellPage({ type: "selection-changed" });
  if (isMask(layer)) return;
  const reached = table.compositor.reach(layer, keys);
  // Seen through a veil, a mask's own change must show too.
  if (overlaid) table.compositor.forgetTiles(reached);
  else table.compositor.forget(layer, reached);
  table.thumbnail.stale(reached);
  display?.paint(reached);
  farView?.stale(reached);
  if (!table.work.isDrawing) tellPage({ type: "layers-changed", ids: [layer] });
}

/** Pixels on their way to the screen, as they are wanted. */
function look(pixels: Uint8ClampedArray): void {
  if (looking.values !== null) toValues(pixels, looking.values);
}

const shown: WorkEvents = {
  damaged: showDamage,
  progressed: (label, share) => {
    pen?.beat();
    if (pen?.stopAsked()) throw new Refusal("Stopped. The picture is as it was.");
    tellPage({ type: "progress", label, share });
  },
  carried: (brush, carried) => {
    hands.left(brush, carried, strokeColour);
    tellPage({ type: "brush-carries", brush, carried });
  },
  inVain: ({ brush, mode }) => {
    const tool = table && brushOf(table.work.picture, brush);
    if (mode !== "paint" && tool && isForWet(tool))
      tellPage({
        type: "told",
        text: "No paint is wet there: this brush stirs and wipes wet paint.",
      });
  },
  restructured: (before, after) => {
    if (before.sheet !== after.sheet) return showSheet();
    overlaid?.arrange();
    // Brushes and guides are not seen in the picture, and light is on paint that stands up alone.
    const isLit = after.layers.some(({ id }) => table && standsUp(table.work.picture, id));
    const sameLight = !isLit || before.sun === after.sun;
    if (before.layers === after.layers && before.ground === after.ground && sameLight) return;
    table?.thumbnail.staleAll();
    display?.repaintAll();
    farView?.staleAll();
  },
};

/** What of a box lies on the sheet: tiles reach a little beyond it. */
function clippedBox({ left, top, right, bottom }: Box): Box {
  const { width, height } = theTable().work.picture;
  return { left, top, right: Math.min(width, right), bottom: Math.min(height, bottom) };
}

/** The sheet is another one: all that shows it begins anew. */
function showSheet(): void {
  if (!table) return;
  const { work, compositor } = table;
  overlaid?.arrange();
  compositor.forgetAll();
  table.thumbnail = new PictureThumbnail(work.picture, engine.store.heap);
  display?.forgetAll();
  if (farView) showFarView(farView.canvas);
}

/** Shows the whole picture, small, on a canvas. */
function showFarView(canvas: OffscreenCanvas): void {
  const { work, compositor } = theTable();
  farView?.stop();
  const borrow = (context: OffscreenCanvasRenderingContext2D): boolean =>
    display?.drawWhole(context, canvas.width, canvas.height) ?? false;
  farView = new FarView(canvas, work.picture, compositor, engine.store.heap, look, borrow);
}

/** What is wet shines on the table. */
const overNow = (): Over | null =>
  looking.shine ? () => shineOver(engine.bench, theTable().work.picture) : null;

const lookNow = (): Look | null => (looking.values === null ? null : look);

/** Shows tiles of a layer anew though the picture has not changed. */
function repaint(layer: string, keys: number[]): void {
  const reached = table?.compositor.reach(layer, keys) ?? keys;
  table?.compositor.forget(layer, reached);
  display?.paint(reached);
}

function inTransform(act: (held: Transforming) => void): Answer {
  const result = answered(() => {
    if (transforming) act(transforming);
    return null;
  });
  tellState();
  return result;
}

// ---- the pen ----

/** Ms after the pen's last sample at which all that it has drawn is shown. */
const RESTS_AFTER = 40;
let resting: ReturnType<typeof setTimeout> | undefined;

/** A broad stroke is not shown at each sample: what is left is shown once the pen rests. */
function showWhenItRests(): void {
  clearTimeout(resting);
  resting = setTimeout(() => table?.work.showStroke(), RESTS_AFTER);
}

function abandonStroke(work: Work): void {
  work.abandonStroke();
  if (untold) tellPage({ type: "kept", kept: untold });
  untold = null;
  startClock();
}

function drainPen(): void {
  const work = table?.work;
  if (!work?.isDrawing) return;
  lastActivity = performance.now();
  try {
    pen?.read(
      (samples) => work.extendStroke(samples),
      (mark) => (mark === "restart" ? work.restartStroke() : abandonStroke(work)),
    );
    showWhenItRests();
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    tellPage({ type: "told", text: error.message });
  }
}

// ---- time ----

/** When time passes next; null while nothing changes with it. */
let clock: ReturnType<typeof setTimeout> | null = null;
let timeNotedAt = 0;

/** Something was done: if anything changes as time passes, it begins to. */
function startClock(): void {
  if (clock === null) clock = setTimeout(tick, STEP_MS);
}

/** What is wet stays as it is: the picture is put away. */
function stopClock(): void {
  if (clock !== null) clearTimeout(clock);
  clock = null;
}

/** One step of time. The pen goes first: what it draws stops the clock, and its end starts it again. */
function tick(): void {
  clock = null;
  // What is in hand is not to change.
  if (!table || table.readOnly || transforming) return;
  const { work } = table;
  const began = performance.now();
  const flowed = work.isFlowing;
  const goesOn = work.advance(1);
  // What was wet is dry.
  if (flowed && !work.isFlowing) tellState();
  if (!goesOn) return;
  if (began - timeNotedAt > NOTED_EVERY) {
    timeNotedAt = began;
    work.noteTime();
    tellPage({ type: "dries", left: work.secondsLeft });
  }
  clock = setTimeout(tick, Math.max(1, STEP_MS - (performance.now() - began)));
}

/** Layers that were left alone for long enough are dry. What was undone can still be done again first. */
function dryByItself(): void {
  if (!table || table.readOnly || transforming) return;
  const { work } = table;
  if (work.isDrawing || work.isTrying || work.isFlowing || work.history.redoLabel) return;
  const layers = drying.due(work.picture, performance.now());
  if (layers.length === 0) return;
  work.apply({ do: "paint.dry", layers });
  tellState();
}

// ---- in the background ----

async function keepInBackground(): Promise<void> {
  if (!table || table.readOnly) return;
  if (!table.keeper.isKept && performance.now() - triedAt > AGAIN_AFTER) {
    triedAt = performance.now();
    await table.keeper.flush();
  }
  if (table.work.isDrawing || table.work.isTrying || table.work.isFlowing) return;
  if (performance.now() - lastActivity < REST) return;
  const { keeper, work } = table;
  if (keeper.needsCheckpoint) await checkpoint();
  else if (await keeper.bringStepsBack(engine, work, READY_STEPS)) tellState();
  else work.history.tidy(TIDY);
}

/** Makes ready what an earlier session did, so that it can be undone. */
async function bringStepsBack(): Promise<void> {
  const { id, keeper, work } = theTable();
  if (await keeper.bringStepsBack(engine, work, 1)) tellState();
  await connection.use((db) => forgetOldSteps(db, id));
}

async function checkpoint(): Promise<void> {
  if (!table) return;
  const { keeper, work, thumbnail, compositor } = table;
  await keeper.checkpoint(engine, work, await thumbnail.refresh(compositor));
}

setInterval(() => pen?.beat(), BEAT);
setInterval(dryByItself, IDLE_CHECK);
setInterval(
  () => void keepInBackground().catch((error: unknown) => console.error(error)),
  IDLE_CHECK,
);

/** Tells open Portfolios that a picture in store has changed. */
function tellShelf(): void {
  const channel = new BroadcastChannel(SHELF_CHANNEL);
  channel.postMessage("changed");
  channel.close();
}

/** Takes the picture's lock; null where another tab has it. */
function lock(id: string): Promise<(() => void) | null> {
  return new Promise((resolve) => {
    void navigator.locks.request(pictureLock(id), { ifAvailable: true }, (held) => {
      if (!held) return resolve(null);
      return new Promise<void>((release) => resolve(() => release()));
    });
  });
}

// ---- files ----

const exportProgress = (share: number): void =>
  longWork("Writing the file", share, "Stopped. Nothing was written.");

/** Tells how far long work has come. @throws Refusal where it was asked to stop */
function longWork(label: string, share: number, stopped = "Stopped. Nothing was kept."): void {
  pen?.beat();
  if (pen?.stopAsked()) throw new Stopped(stopped);
  tellPage({ type: "progress", label, share });
}

/** A picture whose colours are taken is made smaller than this first, px a side. */
const LONGEST_SOURCE = 1024;

const READING = "Reading the file";

/** Reads a file in a thread of its own; meanwhile the page hears that it lasts, and may stop it. */
const readFile = (async (reader, ...[bytes, ...more]: [Uint8Array, ...number[]]) => {
  const tell = (share: number | null): void =>
    tellPage({ type: "progress", label: READING, share });
  const stopAsked = (): boolean => pen?.stopAsked() ?? false;
  try {
    return await readApart(reader, bytes, more, { stopAsked, waits: () => tell(null) });
  } finally {
    tell(1);
  }
}) as ReadFile;

/** Puts a picture that was saved in a file of ours on the shelf, as a picture of its own. */
async function putWhole({
  title,
  created,
  header,
  lost,
  commands,
  painted,
  pins,
}: Whole): Promise<string> {
  const sheet = painted.structure.sheet ?? header;
  const record = { ...newRecord(sheet, title, null, painted.thumbnail), created };
  const picture = record.id;
  await connection.use((db) => Keeper.create(db, header, record, commands, painted, lost));
  for (const pin of pins)
    await connection.use((db) => new PinBox(db).keep({ ...pin, id: nanoid(10), picture }));
  return picture;
}

async function exported(choice: ExportChoice): Promise<ExportedFile> {
  const { work, title, keeper } = theTable();
  work.stopTrying();
  work.endTime();
  if (choice.format === "log") {
    const lines = [JSON.stringify(work.picture.header), ...(await keeper.journal.lines())];
    const bytes = new TextEncoder().encode(`${lines.join("\n")}\n`);
    return { name: fileName(title, "jsonl"), type: "application/jsonl", bytes };
  }
  if (choice.format === "whole") {
    const log = await keeper.journal.inForce();
    const bytes = await wholePictureFile(engine, work, keeper, log, exportProgress);
    return { name: fileName(title, "ora"), type: "image/openraster", bytes };
  }
  if (choice.format === "svg") {
    const bytes = new Uint8Array(writeSvg(engine, work.picture, exportProgress));
    return { name: fileName(title, "svg"), type: "image/svg+xml", bytes };
  }
  if (choice.format === "ora") {
    const bytes = new Uint8Array(
      writeOpenRaster(engine, work.picture, exportProgress, choice.merges),
    );
    return { name: fileName(title, "ora"), type: "image/openraster", bytes };
  }
  const { format, rendering } = choice;
  const { picture } = work;
  if (format === "tiff") {
    const pages = choice.pages ? layerPages(picture) : [{ picture, name: title }];
    // What lies on the ground alone has none of its own.
    const own = choice.pages ? { ...rendering, ground: false } : rendering;
    const bytes = new Uint8Array(writeTiff(engine, pages, own, exportProgress));
    return { name: fileName(title, "tif"), type: "image/tiff", bytes };
  }
  if (format === "pdf") {
    const { writePdf } = await import("../engine/file/print/pdf");
    const bytes = new Uint8Array(
      await writePdf(engine, picture, title, rendering, choice.page, exportProgress),
    );
    return { name: fileName(title, "pdf"), type: "application/pdf", bytes };
  }
  const kept = format === "png" ? rendering : { ...rendering, depth: 8 as const, ground: true };
  const png = new Uint8Array(writePicturePng(engine, work, kept, exportProgress));
  if (format === "png") return { name: fileName(title, "png"), type: "image/png", bytes: png };
  return encoded(png, title, format, choice.quality, outSize(picture, rendering));
}

/** A stored thumbnail; null where there is none that can be read. */
async function bitmapOf(png: Uint8Array | null): Promise<ImageBitmap | null> {
  if (!png) return null;
  const blob = new Blob([new Uint8Array(png)], { type: "image/png" });
  return createImageBitmap(blob).catch(() => null);
}

async function encoded(
  png: Uint8Array<ArrayBuffer>,
  title: string,
  format: "jpeg" | "webp",
  quality: number,
  { width, height, ppi }: { width: number; height: number; ppi: number },
): Promise<ExportedFile> {
  const bitmap = await createImageBitmap(new Blob([png], { type: "image/png" }));
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0);
  bitmap.close();
  const type = `image/${format}`;
  const blob = await canvas.convertToBlob({ type, quality });
  if (blob.type !== type)
    throw new Refusal(
      `This browser cannot write ${format === "webp" ? "WebP" : "JPEG"}. Choose PNG.`,
    );
  const plain = new Uint8Array(await blob.arrayBuffer());
  const bytes = format === "jpeg" ? stampJpeg(plain, ppi) : stampWebp(plain, width, height, ppi);
  return { name: fileName(title, format === "jpeg" ? "jpg" : "webp"), type, bytes };
}

/** Work that the illustrator asked for: painting a sample waits for it. */
const askedFor = new Set<Promise<unknown>>();

function first<T>(work: Promise<T>): Promise<T> {
  askedFor.add(work);
  const done = (): void => void askedFor.delete(work);
  work.then(done, done);
  return work;
}

/** The paper that brushes are shown on: that of the picture on the table. */
const paperBelow = (): Paper => theTable().work.picture.structure.paper;

/** Long work begins: a stop that was asked for earlier is none of its own. */
function forgetStops(): void {
  pen?.stopAsked();
}

/** The record of a picture that is new on the shelf. */
function newRecord(
  { width, height, ppi }: { width: number; height: number; ppi: number },
  title: string,
  sample: string | null,
  thumbnail: Uint8Array | null,
): PictureRecord {
  const now = Date.now();
  return {
    id: nanoid(12),
    title,
    width,
    height,
    ppi,
    created: now,
    touched: now,
    bytes: 0,
    thumbnail,
    thrownAway: null,
    sample,
  };
}

/** Paints a log and puts the picture in store, with its thumbnail. */
async function putInStore(
  log: WorkLog,
  title: string,
  sample: string | null,
  label: string,
): Promise<string> {
  engine = await engineReady;
  const work = await paintLog(
    engine,
    log,
    async (share) => {
      longWork(label, share * 0.9);
      await giveWay();
      while (sample && askedFor.size > 0) await Promise.allSettled(askedFor);
    },
    (_step, share) => longWork(label, share * 0.9),
  );
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  const thumbnail = await new PictureThumbnail(work.picture, engine.store.heap).refresh(compositor);
  compositor.free();
  // The last moment at which nothing is in store yet.
  longWork(label, 0.95);
  const record = newRecord(work.picture, title, sample, thumbnail);
  const { id } = record;
  await connection.use((db) => Keeper.create(db, log.header, record, log.commands));
  if (log.commands.length > FEW_STEPS)
    await new Keeper(connection, id, () => undefined).keepNew(engine, work, thumbnail);
  work.release();
  tellPage({ type: "progress", label, share: 1 });
  return id;
}

const api: TableApi = {
  async connect(ring) {
    pen = new PenReader(ring);
    engine = await engineReady;
  },

  open: (id) =>
    answer(async () => {
      engine = await engineReady;
      const release = await lock(id);
      const keeper = new Keeper(connection, id, (kept) => {
        // What is being drawn is not kept, whatever came before it is.
        untold = kept.state === "kept" && table?.work.isDrawing ? kept : null;
        if (!untold) tellPage({ type: "kept", kept });
      });
      const quiet: WorkEvents = {
        damaged: keeper.events.damaged,
        restructured: keeper.events.restructured,
      };
      let events: WorkEvents = quiet;
      const relay: WorkEvents = {
        damaged: (damage) => events.damaged?.(damage),
        restructured: (before, after) => events.restructured?.(before, after),
        logged: (command, place) => events.logged?.(command, place),
        stepped: (place) => events.stepped?.(place),
        progressed: (label, share) => events.progressed?.(label, share),
        inVain: (command) => events.inVain?.(command),
        carried: (brush, carried) => events.carried?.(brush, carried),
      };
      const { work, notes } = await keeper.open(engine, relay, (label, share) =>
        tellPage({ type: "progress", label, share }),
      );
      events = joined(keeper.events, shown);
      const record = await connection.use((db) => db.get("pictures", id));
      const { store, workforce } = engine;
      const compositor = new Compositor(work.picture, store, workforce, true, true);
      coarse = await bitmapOf(record?.thumbnail ?? null);
      table = {
        id,
        title: record?.title ?? "Untitled",
        work,
        keeper,
        compositor,
        thumbnail: new PictureThumbnail(work.picture, engine.store.heap),
        readOnly: release === null,
        release: release ?? (() => undefined),
      };
      drying = new DryingByItself(performance.now());
      const top = work.picture.structure.layers.at(-1);
      compositor.setWorking(top?.id ?? null);
      if (release) void bringStepsBack().catch((error: unknown) => console.error(error));
      return { state: stateNow(), notes };
    }),

  attach(canvas, surround) {
    const { work, compositor } = theTable();
    display?.stop();
    display = new Display(canvas, work.picture, compositor, engine.store.heap, (isBusy) =>
      tellPage({ type: "view-busy", isBusy }),
    );
    display.beginWith(coarse);
    coarse = null;
    display.setSurround(surround);
    display.setLook(lookNow());
    display.setOver(overNow());
    startClock();
  },

  resize: (width, height) => display?.resize(width, height),
  attachSlab(canvas, surround) {
    slab?.stop();
    slab = canvas && new SlabTable(canvas, engine, theTable().work, surround);
  },
  resizeSlab: (width, height) => slab?.resize(width, height),
  setSlabView: (view) => slab?.setView(view),
  slabColourAt: (x, y, radius) => slabColourAt(engine, theTable().work.picture, [x, y], radius),
  squeeze: (colour) => {
    const result = answered(() => {
      const { work } = writable();
      work.apply({ do: "slab.squeeze", colour, ...placeToSqueeze(engine, work.picture) });
      return null;
    });
    tellState();
    return result;
  },
  careFor(brush, care, dip) {
    tellPage({ type: "brush-carries", brush, carried: hands.care(brush, care, dip) });
  },
  prepareWash() {
    engine.bench.washPaper(theTable().work.picture);
  },
  attachFarView(canvas) {
    farView?.stop();
    farView = null;
    if (canvas) showFarView(canvas);
  },
  setLooking(next) {
    const shone = looking.shine;
    looking = next;
    display?.setLook(lookNow());
    if (shone !== next.shine) display?.setOver(overNow());
    farView?.staleAll();
  },
  setView: (view) => display?.setView(view),
  setSurround(colour) {
    display?.setSurround(colour);
    slab?.setSurround(colour);
  },
  setWorking: (layer) => table?.compositor.setWorking(layer),

  previewOpacity(layers, opacity) {
    table?.compositor.preview(new Map(layers.map((id) => [id, { opacity }])));
    display?.repaintAll();
  },

  previewLayers(layers, limited) {
    const { work, compositor } = theTable();
    overlaid?.end();
    overlaid = layers && new Overlaid(engine, work, compositor, { layers, limited });
    display?.repaintAll();
  },

  tryOut: (command) =>
    answer(() => {
      lastActivity = performance.now();
      const { work } = writable();
      if (command) work.tryOut(command);
      else work.stopTrying();
      return Promise.resolve(null);
    }),

  lookAtLine: (layer, x, y, within) =>
    tried(() => lookAtLine({ engine, picture: theTable().work.picture, layer }, x, y, within)),
  signatureOf: (layer) =>
    tried(() => signatureOf(linesOf(engine.store, theTable().work.picture, layer).lines)),
  signatureOn: (kept, colour) => tried(() => signatureOn(kept, theTable().work.picture, colour)),
  lookAtLines: (layer, ids) =>
    tried(() => lookAtLines({ engine, picture: theTable().work.picture, layer }, ids)),
  chooseLines: (layer, choice) =>
    tried(() => choiceOfLines({ engine, picture: theTable().work.picture, layer }, choice)),

  lookAtPieces: (layer, ids) =>
    tried(() => lookAtPieces({ engine, picture: theTable().work.picture, layer }, ids)),
  choosePieces: (layer, choice) =>
    tried(() => choiceOfPieces({ engine, picture: theTable().work.picture, layer }, choice)),
  setCard: (set) =>
    tried(() => {
      const card = setCard(engine, theTable().work.picture, set);
      return Comlink.transfer(card, [card.data.buffer]);
    }),

  showMask(layer, alone) {
    const { work, compositor } = theTable();
    overlaid?.end();
    overlaid = layer ? new Overlaid(engine, work, compositor, { mask: layer, alone }) : null;
    display?.repaintAll();
  },

  histogram: (layer) =>
    tried(() => histogramOf(engine, theTable().work.picture, theTable().compositor, layer)),

  paletteFrom: (count) =>
    tried(() => {
      const { picture } = theTable().work;
      const painted = new Compositor(picture, engine.store, engine.workforce, false);
      try {
        const colours = sampledColours(engine, picture, painted);
        if (colours.length === 0) throw new Refusal("Nothing is painted there yet.");
        return paletteFrom(colours, count);
      } finally {
        painted.free();
      }
    }),

  paletteOfFile: (bytes, count) =>
    answer(async () => {
      const { png } = await readFile("fitted", bytes, LONGEST_SOURCE, LONGEST_SOURCE);
      const colours = coloursOfPixels(readPng(png));
      if (colours.length === 0) throw new Refusal("this picture is clear all over");
      return paletteFrom(colours, count);
    }),

  eyePull: () => tried(() => eyePull(engine, theTable().work.picture, theTable().compositor)),
  holes: () => tried(() => holesOf(engine, theTable().work.picture)),

  apply: async (command: CommandInput) => {
    table?.compositor.preview(null);
    const result = answered(() => {
      writable().work.apply(command);
      return null;
    });
    if (result.ok) tellState();
    startClock();
    return Promise.resolve(result);
  },

  beginStroke: ({ keepsPaint, thinner, water, ...beginning }, own) => {
    // Time stands as long as the pen is down; where no stroke begins it goes on.
    startClock();
    return answered(() => {
      pen?.skipToBegin();
      // A stroke whose end was never heard of is ended where it is.
      writable().work.endStroke();
      const brush = own ?? findBrush(beginning.brush);
      bringBrush(brush);
      strokeColour = beginning.colour;
      const keeps = keepsPaint && brush !== undefined && carries(brush, beginning.mode);
      const carried = keeps ? hands.begin(brush.id, beginning) : undefined;
      const oil = { carried, thinner: thinner > 0 ? thinner : undefined };
      const wash = brush && isForWash(brush) && water !== 1 ? { water } : {};
      writable().work.beginStroke({ do: "stroke", ...beginning, ...oil, ...wash });
      drainPen();
      return null;
    });
  },

  endStroke: () => {
    drainPen();
    const result = answered(() => {
      const { work } = writable();
      const command = work.endStroke();
      if (command?.do === "stroke" && command.layer === SELECTION)
        tellPage({ type: "selection-changed" });
      else if (command?.do === "stroke") tellPage({ type: "layers-changed", ids: [command.layer] });
      return null;
    });
    tellState();
    startClock();
    return result;
  },

  historySteps: () => theTable().work.history.steps,

  seenBefore: (steps) =>
    answered(() => {
      const { work } = theTable();
      const snapshot = work.lookBack(steps, () => snapshotOf(engine, work.picture));
      return Comlink.transfer(snapshot, [snapshot.data.buffer]);
    }),

  lookAtRegion: (x, y, choice, leaks) =>
    tried(() => {
      const { work } = theTable();
      if (work.isDrawing) return null;
      looker ??= new RegionLooker(engine, work);
      return looker.at(x, y, choice, leaks);
    }),

  lookAway() {
    looker?.free();
    looker = null;
  },

  async selectionOutline(view, width, height) {
    const { picture } = theTable().work;
    if (!picture.structure.selection || width < 2 || height < 2) return null;
    const canvas = new OffscreenCanvas(width, height);
    const data = outline(picture, engine.store, view, { width, height });
    canvas.getContext("2d")?.putImageData(new ImageData(data, width, height), 0, 0);
    return canvas.convertToBlob({ type: "image/png" });
  },

  hasSelected: (layer) => hasSelected(engine, theTable().work.picture, layer),
  copySelected: (layers) =>
    answered(() => {
      const clipping = copySelected(engine, theTable().work.picture, layers);
      return Comlink.transfer(clipping, [clipping.png.buffer]);
    }),

  beginTransform: (layers, box) => {
    const result = answered(() => {
      const { work, compositor } = writable();
      transforming?.end(true);
      transforming = new Transforming(engine, work, compositor, repaint, layers, box);
      const picture = transforming.picture();
      return Comlink.transfer(picture, [picture.data.buffer]);
    });
    tellState();
    return result;
  },

  takeUp: () => inTransform((held) => held.takeUp()),
  putDown: (warp, filter) => inTransform((held) => held.putDown(warp, filter)),
  endTransform: (keep) => {
    const result = inTransform((held) => held.end(keep));
    transforming = null;
    startClock();
    return result;
  },

  undo: async () => {
    const result = await answer(async () => {
      const { work, keeper } = writable();
      // What an earlier session did can be undone as well, and the next of it is known beforehand.
      await keeper.bringStepsBack(engine, work, 1);
      const label = work.undo();
      await keeper.bringStepsBack(engine, work, 1);
      return label;
    });
    tellState();
    return result;
  },

  redo: () => {
    const result = answered(() => writable().work.redo());
    tellState();
    return result;
  },

  async rename(title) {
    const open = writable();
    open.title = title.trim() || "Untitled";
    await connection.use((db) => new Shelf(db).rename(open.id, open.title));
    tellState();
  },

  layerThumbnail(id, width, height) {
    const { work } = theTable();
    const data = layerThumbnail(work.picture, engine.store, id, width, height);
    return Comlink.transfer({ width, height, data }, [data.buffer]);
  },

  colourAt(x, y, { radius, layer }) {
    const { work, compositor } = theTable();
    const { heap } = engine.store;
    return pickedColour(heap, work.picture, [x, y], radius, (keys, take) => {
      if (layer === null) return compositor.compose(keys, take);
      for (const key of keys) {
        const tile = work.picture.plane(layer).get(key);
        if (tile) take(key, engine.store.address(tile));
      }
    });
  },

  card: (brush, colours) =>
    tried(() => {
      const card = paintCard(engine, brush, colours, paperBelow());
      return Comlink.transfer(card, [card.data.buffer]);
    }),

  tryBrush: (brush, choice) =>
    tried(() => {
      const trial = tryBrush(engine, brush, choice, paperBelow());
      return Comlink.transfer(trial, [trial.data.buffer]);
    }),

  pictureBrushes: () => brushesOnlyIn(theTable().work.picture),

  tipFromPicture: (layer, box, making) =>
    answered(() => tipFrom(layerPixels(theTable().work.picture, engine.store, layer, box), making)),

  tipFromFile: (bytes, making) =>
    answer(async () => tipFrom(readPng((await readFile("flat", bytes)).png), making)),

  lookAtScene: (scene, choice) => {
    const looked = tried(() => previewOf(engine.store, engine.workforce, scene, choice));
    return looked.ok ? Comlink.transfer(looked, [looked.value.buffer]) : looked;
  },
  paintBox: () => {
    const { picture } = theTable().work;
    const box = emptyBox();
    for (const { id, visible } of picture.structure.layers) {
      const own = visible ? contentBox(engine.store, picture.plane(id)) : null;
      if (own) growBox(box, own);
    }
    return box.right > box.left ? clippedBox(box) : null;
  },
  selectionBox: () => {
    const { picture } = theTable().work;
    const box = contentBox(engine.store, picture.plane(SELECTION));
    return picture.structure.selection && box ? clippedBox(box) : null;
  },
  exportFile: (choice) =>
    answer(async () => {
      forgetStops();
      const file = await exported(choice);
      return Comlink.transfer(file, [file.bytes.buffer]);
    }),

  bringIn: (name, bytes) =>
    answer(async () => {
      const { work } = writable();
      const { width, height, structure } = work.picture;
      const called = name.replace(/\.\w+$/, "").slice(0, 110) || "Picture";
      const top = structure.layers.at(-1)?.id ?? null;
      if (kindOf(bytes) === "svg") {
        const file = await readFile("lines", bytes);
        const steps = svgCommands(linesOnSheet(file, work.picture), () => nanoid(10), top);
        work.apply({ do: "together", label: "bring in lines", steps });
        tellState();
        const layer = work.picture.structure.layers.at(-1)?.id ?? "";
        return { layer, note: file.notes.join(" ") || null };
      }
      const pages = await readFile("pages", bytes);
      const other = pages.find((page) => page.width !== width || page.height !== height);
      const fitted = pages.map((page) => onSheet(page, work.picture));
      const steps = layersOf(fitted, called, top, (page) => [
        Math.round((width - page.width) / 2),
        Math.round((height - page.height) / 2),
      ]);
      work.apply({ do: "together", label: "bring in", steps });
      tellState();
      const layer = work.picture.structure.layers.at(-1)?.id ?? "";
      return { layer, note: other ? sizeNote(called, other, work.picture) : null };
    }),

  shapeFromFile: (bytes) => answer(() => readFile("shape", bytes)),
  paperFromFile: (bytes) => answer(() => readFile("paper", bytes)),

  cutStencil: (id, name, bytes) =>
    answer(async () => {
      const { work } = writable();
      const { width, height } = work.picture;
      const { png } = await readFile("fitted", bytes, width, height);
      const { data } = readPng(png);
      const isBareSomewhere = data.some((value, i) => i % 4 === 3 && value < 255);
      const by = isBareSomewhere ? "shape" : "dark";
      const from = { kind: "picture", png: toBase64(png), by } as const;
      work.apply({ do: "stencil.add", id, name, from });
      tellState();
      return null;
    }),

  stencilPicture: (id) =>
    tried(() => {
      const { picture } = theTable().work;
      const stencil = picture.structure.stencils.find((other) => other.id === id);
      if (!stencil) throw new Refusal(`there is no stencil "${id}"`);
      const made = stencilPicture(picture, engine.store, stencil);
      return Comlink.transfer(made, [made.alpha.buffer]);
    }),

  readPin: (bytes) => answer(() => readFile("pin", bytes)),

  readyToSave: () =>
    answer(async () => {
      const { work, keeper } = theTable();
      work.stopTrying();
      work.endTime();
      await keeper.flush();
      return keeper.isKept;
    }),
  async tryKeepingAgain() {
    await table?.keeper.flush();
  },

  async leave() {
    if (!table || table.readOnly) return;
    drainPen();
    table.work.endStroke();
    table.work.endTime();
    startClock();
    await table.keeper.flush();
  },

  async settled() {
    await table?.keeper.flush();
    while (display && !display.isSettled) await giveWay();
    while (slab && !slab.isSettled) await giveWay();
  },

  async close() {
    if (!table) return;
    const { keeper, readOnly, release, work } = table;
    if (!readOnly) {
      work.endStroke();
      work.stopTrying();
      work.endTime();
      stopClock();
      await keeper.flush();
      await keeper.underWay;
      if (keeper.needsCheckpoint) await checkpoint();
    }
    release();
    display?.stop();
    looker?.free();
    looker = null;
    overlaid?.end();
    overlaid = null;
    slab?.stop();
    slab = null;
    hands = new BrushesInHand();
    table = null;
    tellShelf();
  },

  lookAtStudies: () =>
    answered(() => {
      const { work, compositor } = theTable();
      const studies = lookAtStudies(work.picture, compositor, engine.store.heap);
      return Comlink.transfer(
        studies,
        studies.map(({ data }) => data.buffer),
      );
    }),

  carryOver: (frame) =>
    first(
      answer(async () => {
        forgetStops();
        const { work, title } = theTable();
        const name = studyTitle(title, frame);
        const { header, commands } = carryOver(work.picture, engine.store, frame, name);
        const log = { header, commands: commands.map((command) => parseCommand(command)) };
        return putInStore(log, name, null, "Carrying the study over");
      }),
    ),

  create: ({ title, studies, ...sheet }) =>
    first(
      answer(async () => {
        forgetStops();
        if (studies > 0)
          return putInStore(studiesLog(title, sheet, studies), title, null, LAYING_OUT);
        const header = newHeader({ title, ...sheet });
        const first: Command = parseCommand({
          do: "layer.add",
          id: nanoid(10),
          name: "Layer 1",
          above: null,
        });
        return putInStore({ header, commands: [first] }, title, null, LAYING_OUT);
      }),
    ),

  importPicture: (name, bytes) =>
    first(
      answer(async () => {
        forgetStops();
        const { header, commands, notes, whole } = await readFile("picture", bytes);
        if (whole) return { id: await putWhole(whole), notes, isWhole: true };
        const title = header.title ?? name.replace(/\.\w+$/, "");
        const log = { header, commands: commands.map((command) => parseCommand(command)) };
        return {
          id: await putInStore(log, title || "Picture", null, `Bringing in ${name}`),
          notes,
          isWhole: false,
        };
      }),
    ),

  paintPin: (log) =>
    answer(async () => {
      engine = await engineReady;
      const work = await paintLog(engine, readWorkLog(log), giveWay);
      const { width, height } = work.picture;
      const png = writePicturePng(engine, work, { depth: 8, ground: true });
      work.release();
      return { width, height, png };
    }),

  makeSample: (name, title, log, painted) =>
    answer(async () => {
      // A stop that is asked for meanwhile is meant for what the illustrator began.
      while (askedFor.size > 0) await Promise.allSettled(askedFor);
      forgetStops();
      const work = readWorkLog(log);
      if (!painted) return putInStore(work, title, name, `Painting “${title}”`);
      const ready = readPainted(painted);
      const record = newRecord(ready.structure.sheet ?? work.header, title, name, ready.thumbnail);
      await connection.use((db) => Keeper.create(db, work.header, record, work.commands, ready));
      return record.id;
    }),
};

self.addEventListener("message", ({ data }: MessageEvent<unknown>) => {
  if (data === "pen") drainPen();
});
Comlink.expose(api);
