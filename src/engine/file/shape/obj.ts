import { Refusal } from "../../picture/refusal";
import { MOST_FACES } from "../../scene/solid";
import { refuseFaces, type Triangles } from "./shape";

const MOST_CORNERS = MOST_FACES * 3;
/** Corners of one face at most. */
const MOST_SIDES = 4096;

/**
 * Triangles of a Wavefront OBJ text: its corners (v) and faces (f); faces of more corners are fanned. Colours, normals
 * and groups are left out.
 * @throws Refusal that names the line at fault
 */
export function readObj(text: string): Triangles {
  const corners: number[] = [];
  const faces: number[] = [];
  let number = 0;
  // A line that ends with a backslash goes on.
  for (const line of text.replace(/\\\r?\n/g, " ").split(/\r?\n/)) {
    number++;
    const [word, ...rest] = line.trim().split(/\s+/);
    if (word === "v") {
      const place = rest.slice(0, 3).map(Number);
      if (place.length < 3 || place.some((v) => !Number.isFinite(v) || Math.abs(v) > 1e9))
        throw new Refusal(
          `line ${number}: a corner needs three numbers, and is “${line.trim().slice(0, 60)}”`,
        );
      corners.push(...place);
      if (corners.length > MOST_CORNERS * 3)
        throw new Refusal(`the file holds more than ${MOST_CORNERS} corners`);
    } else if (word === "f") {
      const named = cornersOf(rest, corners.length / 3, number);
      for (let i = 2; i < named.length; i++)
        faces.push(named[0] as number, named[i - 1] as number, named[i] as number);
      refuseFaces(faces.length / 3);
    }
  }
  return { corners, faces };
}

/** Places of a face's corners: they are counted from 1, or backwards from the last one. */
function cornersOf(words: readonly string[], count: number, line: number): number[] {
  if (words.length < 3 || words.length > MOST_SIDES)
    throw new Refusal(
      `line ${line}: a face has 3 to ${MOST_SIDES} corners, and this one ${words.length}`,
    );
  return words.map((word) => {
    const named = Number(word.split("/")[0]);
    const place = named > 0 ? named - 1 : count + named;
    if (!Number.isInteger(named) || place < 0 || place >= count || named === 0)
      throw new Refusal(`line ${line}: a face names corner “${word.slice(0, 20)}” of ${count}`);
    return place;
  });
}
