import { whyOf } from "../../notices/why";
import { nanoid } from "nanoid";
import { create } from "zustand";
import { openDatabase } from "../../../storage/database";
import { PinBox } from "../../../storage/pins";
import { type PinRecord } from "../../../storage/records";
import { type PinPicture } from "../../../worker/protocol";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** Width of a new pin, and how far each lies from the one before it, CSS px. */
const ACROSS = 220;
const STEP = 26;
const FIRST = 16;
export const LEAST_ACROSS = 90;
export const MOST_ZOOM = 16;

/** The pins of the picture on the table, as they are seen. */
export const usePins = create<{ pins: PinRecord[] }>()(() => ({ pins: [] }));

async function inBox<T>(act: (box: PinBox) => Promise<T>): Promise<T> {
  const db = await openDatabase();
  try {
    return await act(new PinBox(db));
  } finally {
    db.close();
  }
}

/** Lays out the pins of a picture. Returns a function that takes them off the table. */
export function layOutPins(picture: string): () => void {
  let gone = false;
  usePins.setState({ pins: [] });
  void inBox((box) => box.list(picture)).then(({ pins, unreadable }) => {
    if (gone) return;
    usePins.setState({ pins });
    if (unreadable > 0)
      tell(`${unreadable} pins cannot be read by this version. They stay stored as they are.`);
  });
  return () => {
    gone = true;
    usePins.setState({ pins: [] });
  };
}

/** A pin as it first lies on the table. */
export function newPin(
  picture: string,
  name: string,
  { width, height, png }: PinPicture,
  before: number,
): PinRecord {
  const at = FIRST + (before % 8) * STEP;
  return {
    id: nanoid(10),
    picture,
    name: name.replace(/\.\w+$/, "").slice(0, 200) || "Pin",
    png,
    width,
    height,
    x: at,
    y: at,
    across: ACROSS,
    zoom: 1,
    middleX: 0.5,
    middleY: 0.5,
    mirrored: false,
    grey: false,
    made: Date.now() + before,
  };
}

/** Pins a file's picture beside the work. */
export async function pinFile(session: Session, file: File): Promise<void> {
  const answer = await session.link.api.readPin(new Uint8Array(await file.arrayBuffer()));
  if (!answer.ok) return tell(`“${file.name}” was not pinned: ${answer.why}.`);
  const pin = newPin(session.id, file.name, answer.value, usePins.getState().pins.length);
  usePins.setState(({ pins }) => ({ pins: [...pins, pin] }));
  useTable.setState({ pinsShown: true });
  await kept(() => inBox((box) => box.keep(pin)));
}

/** Changes how a pin lies or is seen; `keep`: the hand has let go of it. */
export function changePin(id: string, changes: Partial<PinRecord>, keep = true): void {
  usePins.setState(({ pins }) => ({
    pins: pins.map((pin) => (pin.id === id ? { ...pin, ...changes } : pin)),
  }));
  const pin = usePins.getState().pins.find((own) => own.id === id);
  if (pin && keep) void kept(() => inBox((box) => box.keep(pin)));
}

/** Takes a pin off, with a way back. */
export function unpin(pin: PinRecord): void {
  usePins.setState(({ pins }) => ({ pins: pins.filter(({ id }) => id !== pin.id) }));
  void kept(() => inBox((box) => box.remove(pin.id)));
  tell(`“${pin.name}” was taken off the pinboard.`, {
    label: "Put it back",
    act: () => {
      usePins.setState(({ pins }) => ({ pins: [...pins, pin] }));
      void kept(() => inBox((box) => box.keep(pin)));
    },
  });
}

async function kept(act: () => Promise<void>): Promise<void> {
  try {
    await act();
  } catch (error) {
    tell(
      `The pinboard could not be kept: ${whyOf(error)}. It is as you see it while this page is open.`,
    );
  }
}

/** The pin's picture seen through its frame: where it lies in the frame, CSS px. */
export function seenThrough({ across, width, height, zoom, middleX, middleY }: PinRecord): {
  frameHeight: number;
  width: number;
  height: number;
  left: number;
  top: number;
} {
  const frameHeight = (across * height) / width;
  const seen = { width: across * zoom, height: frameHeight * zoom };
  const held = (at: number, size: number, frame: number): number =>
    Math.min(0, Math.max(frame - size, frame / 2 - at * size));
  return {
    frameHeight,
    ...seen,
    left: held(middleX, seen.width, across),
    top: held(middleY, seen.height, frameHeight),
  };
}

/** The pin zoomed, the point (x, y) of its frame showing what it showed. */
export function zoomedPin(
  pin: PinRecord,
  factor: number,
  x: number,
  y: number,
): Pick<PinRecord, "zoom" | "middleX" | "middleY"> {
  const seen = seenThrough(pin);
  const zoom = Math.min(MOST_ZOOM, Math.max(1, pin.zoom * factor));
  const grown = zoom / pin.zoom;
  const middle = (at: number, offset: number, size: number, frame: number): number => {
    const share = (at - offset) / size;
    return clamp((share * size * grown + frame / 2 - at) / (size * grown));
  };
  return {
    zoom,
    middleX: middle(x, seen.left, seen.width, pin.across),
    middleY: middle(y, seen.top, seen.height, seen.frameHeight),
  };
}

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
