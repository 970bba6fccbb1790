import { nanoid } from "nanoid";
import { openDatabase } from "../../../storage/database";
import { Shelf } from "../../../storage/shelf";
import { tell } from "../../notices/notices";
import { lineLayerNow } from "../lines/lines-store";
import { remember, type Session } from "../session";
import { useTable } from "../table-store";
import { beginTransform } from "../transform/transform-store";

/** Keeps the lines of the working line layer as the signature that every picture may be signed with. */
export async function keepSignature(session: Session): Promise<void> {
  const layer = lineLayerNow();
  if (!layer) return tell("Write your name on a line layer first, then keep it as your signature.");
  const kept = await session.link.api.signatureOf(layer.id);
  if (!kept.ok) return tell(kept.why);
  await remember({ signature: kept.value });
  tell("Kept as your signature. “Sign the picture” puts it on any picture.");
}

/** Puts the kept signature on a line layer of its own, in the colour in hand, held to be moved and sized. */
export async function signPicture(session: Session): Promise<void> {
  const db = await openDatabase();
  const { signature } = await new Shelf(db).settings();
  db.close();
  if (!signature)
    return tell(
      "No signature is kept yet. Write your name on a line layer, then “Keep as signature”.",
    );
  const { colour, picture } = useTable.getState();
  const lines = await session.link.api.signatureOn(signature, colour);
  if (!lines.ok) return tell(lines.why);
  // On top of all, whatever is in hand.
  const top = picture?.layers.filter(({ group }) => group === null).at(-1);
  if (top) session.select([top.id]);
  const id = nanoid(10);
  const made = await session.addLayerWith(id, { kind: "lines", name: "Signature" }, [
    { do: "line.add", layer: id, lines: lines.value },
  ]);
  if (made) await beginTransform(session, null);
}
