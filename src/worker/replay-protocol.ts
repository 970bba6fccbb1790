import { type Answer, type ExportedFile } from "./protocol";

/** What is to be replayed. */
export type ReplayedPicture = {
  title: string;
  width: number;
  height: number;
  steps: number;
  /** How long its strokes took the hand, ms. */
  drawnIn: number;
};

export type FilmChoice = { seconds: number; longest: number; asPictures: boolean };

/** How much of a film is written, told beside the answers to calls. */
export type FilmMessage = { film: number };

/** What the worker of a replay does for its page. */
export type ReplayApi = {
  open(id: string): Promise<Answer<ReplayedPicture>>;
  attach(canvas: OffscreenCanvas, surround: string): void;
  resize(width: number, height: number): void;
  /** Shows the picture as it was at a share of the work, 0…1. */
  seek(share: number): Answer;
  film(choice: FilmChoice): Promise<Answer<ExportedFile>>;
  stopFilm(): void;
};
