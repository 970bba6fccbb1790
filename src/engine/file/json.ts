/** Arrays and objects lie in each other so deep at most: readers go down into them step by step. */
const MOST_DEPTH = 64;

/** Whether a JSON text's arrays and objects lie deeper in each other than any of ours do. */
export function isTooDeep(text: string): boolean {
  let depth = 0;
  let inText = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (inText) {
      if (code === 0x5c) i++;
      else if (code === 0x22) {
        inText = false;
      }
    } else if (code === 0x22) {
      // Long texts are pictures: the way to their end is short.
      const end = text.indexOf('"', i + 1);
      if (end > i && text.charCodeAt(end - 1) !== 0x5c) i = end;
      else inText = true;
    } else if (code === 0x5b || code === 0x7b) {
      if (++depth > MOST_DEPTH) return true;
    } else if (code === 0x5d || code === 0x7d) depth--;
  }
  return false;
}
