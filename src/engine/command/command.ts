import { type Picture, type PlaneName, type Structure } from "../picture/picture";
import { type Bench } from "../bench";
import { type Tile } from "../tiles/tile-store";

/** One tile of a plane of a layer exchanged for another; null is an absent tile. */
export type TileSwap = {
  layer: string;
  plane: PlaneName;
  key: number;
  before: Tile | null;
  /** Not known yet where the change came out of the store: then it is found as the change is undone. */
  after: Tile | null | undefined;
};

/** What a command did, and how to take it back. Holds on to every tile it names. */
export type Change = {
  label: string;
  /** Undone and redone together with its neighbours, not a step of its own. */
  silent: boolean;
  /** Undone together with what it followed, redone with it. */
  follows: boolean;
  structure: { before: Structure; after: Structure };
  swaps: TileSwap[];
};

/** Given to a command's `apply`: the picture and the ways to change it. */
export type Applying = {
  picture: Picture;
  bench: Bench;
  /** Puts a tile (or nothing) in place, remembering what was there. Takes over the caller's hold. */
  swap(layer: string, key: number, after: Tile | null, plane?: PlaneName): void;
  /** Lets a layer's wet paint dry as it stands. Any exchange of its colour does that too, but for `keepingWet`. */
  dry(layer: string): void;
  /** Carries out exchanges that know what is wet and what they do to it. */
  keepingWet(what: "oil" | "wash" | "all", act: () => void): void;
  setStructure(structure: Structure): void;
  /** Says how far long work has come; throws where the person wants it stopped. */
  tell(label: string, share: number): void;
};
