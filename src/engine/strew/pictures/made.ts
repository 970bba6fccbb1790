import { type Art } from "./art";
import { leafPictures, needlePictures } from "./leaves";
import { birdPictures, blossomPictures, pebblePictures, ticketPictures } from "./things";
import {
  flakePictures,
  puffPictures,
  rainPictures,
  sparkPictures,
  starPictures,
  steamPictures,
} from "./weather";

/** The pictures of the sets that come with Pampas, by the set's number (see `sets.ts`). */
export const madePictures: readonly (readonly Art[])[] = [
  leafPictures,
  needlePictures,
  flakePictures,
  blossomPictures,
  pebblePictures,
  sparkPictures,
  birdPictures,
  puffPictures,
  steamPictures,
  rainPictures,
  ticketPictures,
  starPictures,
];
