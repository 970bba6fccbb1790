import { type Work } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { Connection } from "./connection";
import { type Database } from "./database";
import { type Kept } from "./journal";
import { Keeper } from "./keeper";
import { type PictureRecord } from "./records";

export const connectionTo = (database: Database): Connection =>
  new Connection(() => Promise.resolve(database));

/** The record of a small picture on the shelf. */
export const kettleRecord = (id: string): PictureRecord => ({
  id,
  title: "Kettle",
  width: 256,
  height: 192,
  ppi: 300,
  created: 1,
  touched: 1,
  bytes: 0,
  thumbnail: null,
  thrownAway: null,
  sample: null,
});

/** A picture that is open. */
export type Opened = {
  engine: Engine;
  work: Work;
  keeper: Keeper;
  notes: string[];
  kept: Kept[];
  /** What opening said that it was doing. */
  labels: string[];
};

/** Opens a picture as a table would. */
export async function openAsTable(
  engine: Engine,
  connection: Connection,
  id: string,
): Promise<Opened> {
  const kept: Kept[] = [];
  const labels: string[] = [];
  const keeper = new Keeper(connection, id, (now) => kept.push(now));
  let live = false;
  const { work, notes } = await keeper.open(
    engine,
    {
      damaged: (damage) => keeper.events.damaged?.(damage),
      restructured: (a, b) => keeper.events.restructured?.(a, b),
      logged: (command, place) => live && keeper.events.logged?.(command, place),
      stepped: (place) => live && keeper.events.stepped?.(place),
    },
    (label) => labels.push(label),
  );
  live = true;
  return { engine, work, keeper, notes, kept, labels };
}

/** A database on a disk that can be filled: transactions of the stores that are named then fail; all, where none is. What is cleared makes room. */
export function smallDisk(db: Database): {
  small: Database;
  fill: (isFull: boolean, ...stores: string[]) => void;
} {
  let isFull = false;
  let full: string[] = [];
  const refuses = (names: string | string[]): boolean =>
    isFull && (full.length === 0 || full.some((name) => names.includes(name)));
  const small = new Proxy(db, {
    get(target, name) {
      const value: unknown = Reflect.get(target, name);
      if (typeof value !== "function") return value;
      const act = (value as (...args: unknown[]) => unknown).bind(target);
      if (name === "clear") isFull = false;
      if (name !== "transaction") return act;
      return (...args: unknown[]) => {
        if (refuses(args[0] as string | string[]))
          throw new DOMException("no room", "QuotaExceededError");
        return act(...args);
      };
    },
  });
  return {
    small,
    fill: (now, ...stores) => {
      isFull = now;
      full = stores;
    },
  };
}
