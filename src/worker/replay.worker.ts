import "../engine/plain-zod";
import * as Comlink from "comlink";
import { type Command, parseCommand } from "../engine/command/commands";
import { type WorkEvents } from "../engine/command/work";
import { Compositor } from "../engine/compose/compositor";
import { type Engine } from "../engine/engine";
import { Refusal } from "../engine/picture/refusal";
import { openDatabase } from "../storage/database";
import { readLog } from "../storage/log";
import { Display } from "./display";
import { fileName } from "./file-name";
import { FilmSheet, filmSize, filmWriter, framesOf } from "./film";
import { type Answer } from "./protocol";
import { Replay } from "./replay";
import { type FilmChoice, type FilmMessage, type ReplayApi } from "./replay-protocol";
import { startEngine } from "./start-engine";
import { fitView } from "./view";

/** Room around the picture, device px. */
const MARGIN = 18;
/** Frames between two looks at the messages. */
const GIVE_WAY_EVERY = 2;
const LONGEST_FILM = 600;

let engine: Engine;
let title = "";
let replay: Replay | null = null;
let compositor: Compositor | null = null;
let display: Display | null = null;
let canvas: OffscreenCanvas | null = null;
let surround = "#7f7f7f";
let sheet: FilmSheet | null = null;
let stopped = false;

const events: WorkEvents = {
  damaged: ({ layer, keys }) => {
    const reached = compositor?.reach(layer, keys) ?? keys;
    compositor?.forget(layer, reached);
    if (sheet) sheet.stale(reached);
    else display?.paint(reached);
  },
  restructured: (before, after) => {
    if (before.sheet !== after.sheet) {
      compositor?.forgetAll();
      display?.forgetAll();
      fit();
    }
    if (sheet) sheet.staleAll();
    else display?.repaintAll();
  },
};

function theReplay(): Replay {
  if (!replay) throw new Refusal("no picture is open");
  return replay;
}

/** A new picture: what shows it is made anew. */
function show(): void {
  const { picture } = theReplay().work;
  compositor?.free();
  compositor = new Compositor(picture, engine.store, engine.workforce, true, true);
  display?.stop();
  if (!canvas) return;
  display = new Display(canvas, picture, compositor, engine.store.heap);
  display.setSurround(surround);
  fit();
}

function fit(): void {
  if (!display || !canvas) return;
  const { picture } = theReplay().work;
  display.setView(fitView(picture, canvas, MARGIN));
}

function said(error: unknown): { ok: false; why: string } {
  if (!(error instanceof Refusal)) console.error(error);
  return { ok: false, why: error instanceof Error ? error.message : String(error) };
}

const giveWay = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/** Strokes carry their times; all of them together are how long the hand drew. */
const drawnIn = (commands: readonly Command[]): number =>
  commands.reduce(
    (sum, command) => sum + (command.do === "stroke" ? (command.samples.at(-1)?.[0] ?? 0) : 0),
    0,
  );

async function written({ seconds, longest, asPictures }: FilmChoice) {
  // The film has the shape of the sheet as it is at its end.
  theReplay().seek(1);
  const { picture } = theReplay().work;
  const size = filmSize(picture, Math.min(3840, Math.max(64, longest)));
  const writer = await filmWriter(size, asPictures);
  const frames = framesOf(Math.min(LONGEST_FILM, Math.max(0.5, seconds)), writer.rate);
  theReplay().seek(0);
  if (!compositor) throw new Refusal("no picture is open");
  sheet = new FilmSheet(theReplay().work.picture, compositor, engine.store.heap, size);
  try {
    for (const [i, share] of frames.entries()) {
      if (stopped) throw new Refusal("Stopped. No film was written.");
      theReplay().seek(share);
      await writer.add(sheet.paint(), i);
      if (i % GIVE_WAY_EVERY === 0) await giveWay();
      self.postMessage({ film: (i + 1) / frames.length } satisfies FilmMessage);
    }
    const bytes = await writer.finish();
    return { name: fileName(title, writer.extension), type: writer.type, bytes };
  } catch (error) {
    writer.stop();
    throw error;
  } finally {
    sheet = null;
    display?.repaintAll();
  }
}

const api: ReplayApi = {
  async open(id) {
    try {
      engine = await startEngine();
      const db = await openDatabase();
      const { header, lines } = await readLog(db, id);
      title = (await db.get("pictures", id))?.title ?? "Picture";
      db.close();
      const commands = lines.map((line) => parseCommand(JSON.parse(line)));
      replay = new Replay(engine, { header, commands }, events, () => show());
      show();
      const { width, height } = header;
      const steps = commands.filter((command) => command.do !== "brush.bring").length;
      return { ok: true, value: { title, width, height, steps, drawnIn: drawnIn(commands) } };
    } catch (error) {
      return said(error);
    }
  },

  attach(given, colour) {
    canvas = given;
    surround = colour;
    show();
  },

  resize(width, height) {
    display?.resize(width, height);
    fit();
  },

  seek(share): Answer {
    try {
      theReplay().seek(share);
      return { ok: true, value: null };
    } catch (error) {
      return said(error);
    }
  },

  async film(choice) {
    stopped = false;
    try {
      const file = await written(choice);
      return { ok: true, value: Comlink.transfer(file, [file.bytes.buffer]) };
    } catch (error) {
      return said(error);
    }
  },

  stopFilm() {
    stopped = true;
  },
};

Comlink.expose(api);
