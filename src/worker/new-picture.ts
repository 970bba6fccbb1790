import { type Paper } from "../engine/paper/paper";

/** What a new picture is to be. Sides in px. */
export type NewPicture = {
  title: string;
  width: number;
  height: number;
  ppi: number;
  ground: string;
  paper: Paper;
  /** How many studies it begins with, on a sheet of their own; 0: none. */
  studies: number;
};
