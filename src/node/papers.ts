import { readFileSync } from "node:fs";
import { join } from "node:path";
import { type BandName, takeBandsFrom } from "../engine/paper/bands";
import { kernelsFolder } from "./kernels-folder";

/** The file of a band that was made beforehand, as `npm run kernels` leaves it. */
export const bandFile = (name: BandName): string => join(kernelsFolder(), "papers", `${name}.band`);

/** Papers come from the files made beforehand, where these are there. */
export function bringPapers(): void {
  takeBandsFrom((name) => {
    try {
      return new Uint8Array(readFileSync(bandFile(name)));
    } catch {
      return null;
    }
  });
}
