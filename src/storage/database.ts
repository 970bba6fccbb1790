import { type DBSchema, type IDBPDatabase, type IDBPObjectStore, openDB } from "idb";
import { Refusal } from "../engine/picture/refusal";
import {
  type AsideRecord,
  type HeadRecord,
  type OwnBrush,
  type PictureRecord,
  type PinRecord,
  type StepRecord,
  type TileRecord,
} from "./records";

const NAME = "pampas";
const VERSION = 4;

export type PampasSchema = DBSchema & {
  pictures: { key: string; value: PictureRecord };
  heads: { key: string; value: HeadRecord };
  /** Commands as JSON, by picture and place. */
  log: { key: [string, number]; value: string };
  /** Tiles by picture, layer, plane and tile key. */
  tiles: { key: [string, string, string, number]; value: TileRecord };
  /** What was there before commands of the log, by picture, place and bytes: keys alone tell what there is. */
  steps: { key: [string, number, number]; value: StepRecord };
  /** Brushes of one's own, by id. */
  brushes: { key: string; value: OwnBrush };
  /** References beside a picture, by id. */
  pins: { key: string; value: PinRecord; indexes: { picture: string } };
  settings: { key: string; value: unknown };
  aside: { key: number; value: AsideRecord };
};

export type Database = IDBPDatabase<PampasSchema>;
/** The steps' store within a transaction that also writes others. */
export type Steps = IDBPObjectStore<
  PampasSchema,
  ("pictures" | "heads" | "tiles" | "steps")[],
  "steps",
  "readwrite"
>;

const NEWER =
  "A newer version of Pampas has opened the pictures in this browser. Reload this page to go on with it.";

/**
 * Opens the store, bringing it from any earlier version to this one.
 * @param closed called when the connection ends by itself: a newer version wants the store, or
 *   the browser took it away
 * @throws Refusal where the store is already of a newer version
 */
export async function openDatabase(closed: () => void = () => undefined): Promise<Database> {
  try {
    return await openStore(closed);
  } catch (error) {
    if (error instanceof Error && error.name === "VersionError") throw new Refusal(NEWER);
    throw error;
  }
}

function openStore(closed: () => void): Promise<Database> {
  return openDB<PampasSchema>(NAME, VERSION, {
    upgrade(db, from) {
      if (from < 1) {
        db.createObjectStore("pictures", { keyPath: "id" });
        db.createObjectStore("heads", { keyPath: "id" });
        db.createObjectStore("log");
        db.createObjectStore("tiles");
        db.createObjectStore("settings");
        db.createObjectStore("aside", { autoIncrement: true });
      }
      if (from < 2) db.createObjectStore("brushes", { keyPath: "id" });
      if (from < 3)
        db.createObjectStore("pins", { keyPath: "id" }).createIndex("picture", "picture");
      if (from < 4) db.createObjectStore("steps");
    },
    // Another tab wants a newer version: let it have it.
    blocking(_current, _blocked, event) {
      (event.target as IDBDatabase).close();
      closed();
    },
    terminated: closed,
  });
}

/** Whether an error says that the disk, or our share of it, is full. */
export const isFull = (error: unknown): boolean =>
  error instanceof DOMException && error.name === "QuotaExceededError";

/** Keys of all log entries of a picture from a place on. */
export const logRange = (id: string, from = 0): IDBKeyRange =>
  IDBKeyRange.bound([id, from], [id, Infinity]);

/** Keys of all tiles of a picture. */
export const tileRange = (id: string): IDBKeyRange => IDBKeyRange.bound([id], [id, []]);

/** Keys of all steps of a picture from a place on. */
export const stepRange = (id: string, from = 0): IDBKeyRange =>
  IDBKeyRange.bound([id, from], [id, Infinity]);
