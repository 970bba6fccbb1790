const ENDING = / copy(?: (\d+))?$/;

/**
 * A name for a copy: “Ink copy”, then “Ink copy 2”; a copy of a copy is not a “copy copy”.
 * @param taken names that are in use
 * @param most longest name, characters
 */
export function copyName(name: string, taken: readonly string[], most: number): string {
  const plain = name.replace(ENDING, "");
  for (let n = 1; ; n++) {
    const ending = n === 1 ? " copy" : ` copy ${n}`;
    const made = plain.slice(0, most - ending.length) + ending;
    if (!taken.includes(made)) return made;
  }
}
