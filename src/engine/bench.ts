import { type Particle } from "./dry/grit";
import { type Picture } from "./picture/picture";
import { type PieceShelf } from "./strew/shelf";
import { type TipShelf } from "./stroke/tip-shelf";
import { type TileStore } from "./tiles/tile-store";
import { type Workforce } from "./tiles/workforce";

/** A paper in shared memory: see `paperMap`. */
export type PaperInMemory = { address: number; period: number; roughness: number };

/** A paper as water meets it, in shared memory: see `washPaper`. */
export type WashPaperInMemory = { address: number; side: number };

/** Tiles of what lies under a layer, for as long as a stroke needs them. */
export interface Below {
  /** Address of a tile's pixels; 0 where there is nothing. */
  at(key: number): number;
  free(): void;
}

/** What strokes need of the engine. */
export type Bench = {
  store: TileStore;
  workforce: Workforce;
  tips: TipShelf;
  /** Pictures of strewn pieces. */
  pieces: PieceShelf;
  /** Blue noise as the kernels read it. */
  noise: number;
  paper(picture: Picture): PaperInMemory;
  /** The paper as water meets it. */
  washPaper(picture: Picture): WashPaperInMemory;
  /** Address of the noise of particles. */
  grit(particle: Particle): number;
  /** All visible layers under one, without the ground. */
  below(picture: Picture, layer: string): Below;
};
