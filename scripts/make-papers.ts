import { mkdirSync, statSync, writeFileSync } from "node:fs";
import { dirname } from "node:path";
import { bandNames, makeBand } from "../src/engine/paper/bands";
import { bandFile } from "../src/node/papers";

/** Makes the bands of the papers that ship, unless they are newer than what they are made with. */
const madeWith = [
  "src/engine/paper/bands.ts",
  "src/engine/paper/fields.ts",
  "kernels/paper/fields.ts",
];
const modified = (file: string): number => statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? 0;
const newest = Math.max(...madeWith.map(modified));

mkdirSync(dirname(bandFile("fine")), { recursive: true });
for (const name of bandNames)
  if (modified(bandFile(name)) < newest) writeFileSync(bandFile(name), makeBand(name));
