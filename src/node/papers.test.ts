import { readFileSync } from "node:fs";
import * as bands from "../engine/paper/bands";
import { FIELD_SIDE } from "../engine/paper/fields";
import { bandFile } from "./papers";

/** Bands in a module of their own, so that none of them is known yet. */
function afresh(): typeof bands {
  let own: typeof bands | undefined;
  jest.isolateModules(() => {
    own = jest.requireActual<typeof bands>("../engine/paper/bands");
  });
  if (!own) throw new Error("there are no bands");
  return own;
}

describe("bands made beforehand", () => {
  it.each(bands.bandNames)("hold what would be made: %s", (name) => {
    expect(Buffer.compare(readFileSync(bandFile(name)), bands.makeBand(name))).toBe(0);
  });

  it("are taken from where they are kept, each once", () => {
    const own = afresh();
    const asked: string[] = [];
    const kept = new Uint8Array(FIELD_SIDE * FIELD_SIDE).fill(7);
    own.takeBandsFrom((name) => {
      asked.push(name);
      return kept;
    });
    expect(own.bandsOf("laid").coarse).toBe(kept);
    own.bandsOf("laid");
    expect(asked).toEqual(["laid", "fine"]);
  });

  it("are made where one is not there", () => {
    const own = afresh();
    own.takeBandsFrom(() => null);
    expect(Buffer.compare(own.bandsOf("board").coarse, bands.makeBand("board"))).toBe(0);
  });

  it("are refused where one is cut off", () => {
    const own = afresh();
    own.takeBandsFrom(() => new Uint8Array(12));
    expect(() => own.bandsOf("sugar")).toThrow("the band sugar has 1048576 heights, not 12");
  });
});
