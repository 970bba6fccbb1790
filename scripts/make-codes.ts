import { readFile, writeFile } from "node:fs/promises";
import { type Instruction, INSTRUCTIONS, wordsOf } from "../src/engine/tiles/instructions";

/** Writes the numbers of the instructions, and how many words each is, for the kernels. */
const names = Object.keys(INSTRUCTIONS) as Instruction[];
const constant = (name: string): string => name.replace(/[A-Z]/g, "_$&").toUpperCase();
const text = [
  "export const END: i32 = 0;",
  ...names.map((name, i) => `export const ${constant(name)}: i32 = ${i + 1};`),
  `export const WORDS: usize = memory.data<u8>([${[1, ...names.map((name) => 1 + wordsOf(name))].join(", ")}]);`,
  "",
].join("\n");

const file = new URL("../kernels/build/codes.ts", import.meta.url);
if ((await readFile(file, "utf8").catch(() => "")) !== text) await writeFile(file, text);
