import { type EngineLink } from "../engine-link";
import { tell } from "../notices/notices";
import { type PaperLook } from "./PaperChoice";

/** A paper made of a picture's light and dark; null, with a word said, where it makes none. */
export async function paperFromFile(api: EngineLink["api"], file: File): Promise<PaperLook | null> {
  const answer = await api.paperFromFile(new Uint8Array(await file.arrayBuffer()));
  if (answer.ok) return { kind: "picture", picture: answer.value };
  tell(`“${file.name}” makes no paper: ${answer.why}.`);
  return null;
}
