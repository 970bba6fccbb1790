import { whyOf } from "../notices/why";
import { customAlphabet } from "nanoid";
import { create } from "zustand";
import { findBrush, brushes as shipped } from "../../engine/media";
import { type Kit, KIT_EXTENSION, readKit, writeKit } from "../../engine/file/kit";
import { type Brush } from "../../engine/stroke/brush";
import { BrushBox, BRUSHES_CHANNEL } from "../../storage/brushes";
import { type Database, openDatabase } from "../../storage/database";
import { type OwnBrush } from "../../storage/records";
import { Shelf } from "../../storage/shelf";
import { tell } from "../notices/notices";
import { download } from "../files/download";

/** Kit of brushes that were made here, until they are given another. */
export const OWN_KIT = "My brushes";
export const PICTURE_KIT = "This picture";
export const FAVOURITES_KIT = "Favourites";
export const MOST_FAVOURITES = 12;

const newId = customAlphabet("abcdefghijklmnopqrstuvwxyz0123456789", 14);

export type BrushBoxState = {
  /** Brushes of one's own, those thrown away too. */
  own: OwnBrush[];
  /** Brushes that the picture on the table brought with it. */
  ofPicture: Brush[];
  favourites: string[];
};

export const useBrushBox = create<BrushBoxState>()(() => ({
  own: [],
  ofPicture: [],
  favourites: [],
}));

const ownBrushes = ({ own }: BrushBoxState): Brush[] =>
  own.filter(({ thrownAway }) => thrownAway === null).map(({ brush }) => brush);

/** Brushes of the picture that are nowhere else. */
const onlyInPicture = (state: BrushBoxState): Brush[] => {
  const own = new Set(ownBrushes(state).map(({ id }) => id));
  return state.ofPicture.filter(({ id }) => !own.has(id) && !findBrush(id));
};

/** A brush by its id, wherever it comes from. */
export function brushById(id: string, state = useBrushBox.getState()): Brush | undefined {
  return (
    ownBrushes(state).find((brush) => brush.id === id) ??
    findBrush(id) ??
    state.ofPicture.find((brush) => brush.id === id)
  );
}

/** The brush itself where the engine does not know it by its name alone. */
export const ownBrush = (id: string): Brush | null =>
  findBrush(id) ? null : (brushById(id) ?? null);

export type KitOfBrushes = { name: string; brushes: Brush[] };

/** All kits that there are, favourites first, then one's own, then those that ship in this order. */
export function kitsOf(state: BrushBoxState, order: readonly string[]): KitOfBrushes[] {
  const byKit = new Map<string, Brush[]>();
  const put = (kit: string, brush: Brush): void => {
    const list = byKit.get(kit);
    if (list) list.push(brush);
    else byKit.set(kit, [brush]);
  };
  for (const id of state.favourites) {
    const brush = brushById(id, state);
    if (brush) put(FAVOURITES_KIT, brush);
  }
  for (const brush of ownBrushes(state)) put(brush.kit, brush);
  for (const name of order) for (const brush of shipped) if (brush.kit === name) put(name, brush);
  for (const brush of onlyInPicture(state)) put(PICTURE_KIT, brush);
  return [...byKit].map(([name, brushes]) => ({ name, brushes }));
}

async function withDatabase<T>(act: (db: Database) => Promise<T>): Promise<T> {
  const db = await openDatabase();
  try {
    return await act(db);
  } finally {
    db.close();
  }
}

function tellOtherTabs(): void {
  const channel = new BroadcastChannel(BRUSHES_CHANNEL);
  channel.postMessage("changed");
  channel.close();
}

/** Reads the own brushes and favourites, now and whenever another tab changes them. */
export function followBrushBox(): () => void {
  const read = (): void => {
    void withDatabase(async (db) => {
      const { brushes: own, unreadable } = await new BrushBox(db).list();
      const { favourites } = await new Shelf(db).settings();
      useBrushBox.setState({ own, favourites });
      if (unreadable > 0)
        tell(
          `${unreadable} of your brushes cannot be read by this version. They stay stored as they are.`,
        );
    });
  };
  read();
  const channel = new BroadcastChannel(BRUSHES_CHANNEL);
  channel.onmessage = read;
  return () => channel.close();
}

function putOwn(record: OwnBrush): void {
  useBrushBox.setState(({ own }) => ({
    own: own.some(({ id }) => id === record.id)
      ? own.map((other) => (other.id === record.id ? record : other))
      : [...own, record],
  }));
}

/** Keeps a brush of one's own. */
export async function keepBrush(brush: Brush): Promise<void> {
  putOwn(await withDatabase((db) => new BrushBox(db).keep(brush)));
  tellOtherTabs();
}

/** A brush made from another, not yet kept. */
export const copyOf = (brush: Brush, name = `${brush.name} copy`): Brush => ({
  ...brush,
  id: newId(),
  name: name.slice(0, 80),
  kit: findBrush(brush.id) ? OWN_KIT : brush.kit,
  author: findBrush(brush.id) ? "" : brush.author,
});

async function setThrownAway(id: string, when: number | null): Promise<void> {
  await withDatabase((db) => new BrushBox(db).throwAway(id, when));
  useBrushBox.setState(({ own }) => ({
    own: own.map((record) => (record.id === id ? { ...record, thrownAway: when } : record)),
  }));
  tellOtherTabs();
}

/** Throws a brush away, with a way back. */
export async function throwBrushAway({ id, name }: Brush): Promise<void> {
  await setThrownAway(id, Date.now());
  tell(`“${name}” was thrown away. Pictures that it was used in keep it.`, {
    label: "Take it back",
    act: () => void setThrownAway(id, null),
  });
}

/** What a brush was when it was first kept. */
export const firstOf = (id: string): Brush | null =>
  useBrushBox.getState().own.find((record) => record.id === id)?.first ?? null;

export async function toggleFavourite(id: string): Promise<void> {
  const { favourites } = useBrushBox.getState();
  const is = favourites.includes(id);
  if (!is && favourites.length >= MOST_FAVOURITES)
    return tell(`The shelf holds ${MOST_FAVOURITES} favourites. Take one off first.`);
  const next = is ? favourites.filter((other) => other !== id) : [...favourites, id];
  useBrushBox.setState({ favourites: next });
  await withDatabase((db) => new Shelf(db).changeSettings({ favourites: next }));
  tellOtherTabs();
}

/** Hands brushes over as one file. */
export function exportKit(kit: Kit): void {
  const plain = kit.name.replace(/[^\p{L}\p{N} _-]+/gu, " ").trim() || "brushes";
  const name = plain.toLowerCase() === "kit" ? "brushes" : plain;
  const bytes = new Uint8Array(writeKit(kit));
  download({ name: `${name}.${KIT_EXTENSION}`, type: "application/zip", bytes });
}

/** Takes all brushes of a kit's file, or none. What is here already stays as it is. */
export async function importKit(file: File): Promise<Brush[]> {
  let kit: Kit;
  try {
    kit = readKit(new Uint8Array(await file.arrayBuffer()));
  } catch (error) {
    tell(`“${file.name}” was not taken: ${whyOf(error)}.`);
    return [];
  }
  const taken = kit.brushes.map((brush) =>
    freed({ ...brush, kit: kit.name, author: brush.author || kit.author }),
  );
  await withDatabase(async (db) => {
    const box = new BrushBox(db);
    for (const brush of taken) putOwn(await box.keep(brush));
  });
  tellOtherTabs();
  tell(
    `“${kit.name}” is on the tray: ${taken.length} ${taken.length === 1 ? "brush" : "brushes"}.`,
  );
  return taken;
}

/** A brush with an id that nothing here has, unless it is the very same brush. */
function freed(brush: Brush): Brush {
  const known = brushById(brush.id);
  if (!known || JSON.stringify(known) === JSON.stringify(brush)) return brush;
  return { ...brush, id: newId() };
}
