import { type Applying } from "../command/command";
import { type Picture } from "../picture/picture";
import { isWashed, WASH_PLANES } from "./wash-planes";

/** What is seen of a layer's washes stays as it stands; what could still be moved of them is forgotten. */
export function forgetWash(picture: Picture, layer: string, exchange: Applying["swap"]): void {
  if (!isWashed(picture, layer)) return;
  for (const name of WASH_PLANES)
    for (const key of [...picture.plane(layer, name).keys()]) exchange(layer, key, null, name);
}
