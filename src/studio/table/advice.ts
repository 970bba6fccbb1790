import { brushById } from "../brushes/brush-box";
import { tell } from "../notices/notices";
import { remember } from "./session";
import { useTable } from "./table-store";

/** One line about a medium, said when it is taken up for the first time. */
const lines: Readonly<Record<string, string>> = {
  Oil: "Oil stays wet: colours mix where they meet. Blend stirs with a clean brush, Lift wipes; Dry now, at the left, sets what is there.",
  Water:
    "A wash runs and dries by itself: drop into it while it is wet, hold still to pour, tilt the sheet with the level. Lift is a thirsty brush, Blend clear water; how it dries is set at the left.",
  "Gouache and acrylic":
    "Gouache and acrylic are dry by the next stroke, so colours lie on each other clean. Blend stirs them all the same.",
};

/** What was told once for good: media, and the first steps. */
let told: readonly string[] = [];

/** Takes up what was told on visits before. */
export const takeUpTold = (advised: readonly string[]): void => void (told = advised);

export const wasTold = (name: string): boolean => told.includes(name);

/** Remembers that something was told. */
export function markTold(name: string): void {
  if (wasTold(name)) return;
  told = [...told, name];
  void remember({ advised: [...told] });
}

/** Says what a medium's line is as soon as a brush of it is chosen, once for good. Returns a function that stops it. */
export function giveAdvice(): () => void {
  return useTable.subscribe((now, before) => {
    if (now.brush === before.brush) return;
    const kit = brushById(now.brush)?.kit ?? "";
    const line = lines[kit];
    if (!line || wasTold(kit)) return;
    tell(line);
    markTold(kit);
  });
}
