import { toBase64 } from "../../../engine/file/base64";
import { type Clipping } from "../../../worker/protocol";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** What was copied last, as long as nothing else has come to the clipboard. */
let clipping: Clipping | null = null;

/** A copy in the making: who pastes waits for it. */
let copying: Promise<boolean> | null = null;

export const hasClipping = (): boolean => clipping !== null || copying !== null;

/** Copies what is selected of the chosen layers, or of all that is seen; to the system's clipboard too. */
export function copySelected(session: Session, merged: boolean): Promise<boolean> {
  copying = copy(session, merged);
  return copying;
}

async function copy(session: Session, merged: boolean): Promise<boolean> {
  const { selected } = useTable.getState();
  const answer = await session.link.api.copySelected(merged ? null : selected);
  if (!answer.ok) {
    tell(`Nothing was copied: ${answer.why}.`);
    return false;
  }
  clipping = answer.value;
  try {
    const blob = new Blob([clipping.png], { type: "image/png" });
    await navigator.clipboard.write([new ClipboardItem({ "image/png": blob })]);
  } catch {
    tell("Copied here. The browser did not let it onto the system’s clipboard.");
  }
  return true;
}

export async function cutSelected(session: Session): Promise<void> {
  if (await copySelected(session, false)) await session.clearLayers();
}

/** Pastes as a new layer: where it was, or in the middle of the view. */
export async function pasteClipping(session: Session, centred: boolean): Promise<void> {
  await copying;
  if (!clipping) return tell("There is nothing copied yet.");
  const { view } = useTable.getState();
  const { png, width, height } = clipping;
  const x = centred ? Math.round(view.x - width / 2) : clipping.x;
  const y = centred ? Math.round(view.y - height / 2) : clipping.y;
  await session.placePicture("Pasted", toBase64(png), x, y);
}

/** What is selected of the working layer on a layer of its own, above it. */
export async function floatSelected(session: Session): Promise<void> {
  const { picture, selected } = useTable.getState();
  const [layer] = selected;
  if (!layer) return;
  session.select([layer]);
  const paint = picture?.layers.find(({ id, kind }) => id === layer && kind === "paint");
  if (paint) {
    if (await session.link.api.hasSelected(layer)) return session.floatPaint(paint);
    return tell(`Nothing was floated: “${paint.name}” has no paint here.`);
  }
  if (!(await copySelected(session, false)) || !clipping) return;
  const { png, x, y } = clipping;
  await session.floatPicture(layer, toBase64(png), x, y);
}
