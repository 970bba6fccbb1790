import { readFile } from "node:fs/promises";
import { readWorkLog, type WorkLog } from "../engine/command/work-log";
import { limits } from "../engine/file/limits";
import { countOra, readOpenRaster } from "../engine/file/openraster/read";
import { readPng } from "../engine/file/png";
import { Refusal } from "../engine/picture/refusal";

/** What a file holds. */
export type Holds = {
  kind: "work log" | "PNG picture" | "OpenRaster picture";
  /** Px. */
  width: number;
  height: number;
  ppi?: number;
  mode?: string;
  ground?: string;
  paper?: string;
  /** Revision of the engine that drew it. */
  engine?: number;
  /** How many of each command. */
  commands?: Record<string, number>;
  layers?: number;
  /** What was left out in reading it. */
  notes?: string[];
};

function ofLog({ header, commands }: WorkLog): Holds {
  const counts: Record<string, number> = {};
  for (const command of commands) counts[command.do] = (counts[command.do] ?? 0) + 1;
  const { width, height, ppi, mode, ground, paper, engine } = header;
  return {
    ...{ kind: "work log", width, height, ppi, mode, ground, engine },
    paper: `${paper.kind} × ${paper.scale}`,
    commands: counts,
  };
}

/**
 * Reads a work log, a PNG or an OpenRaster file to its end.
 * @throws Refusal where it is none, is broken, or is too large
 */
export async function lookInto(path: string): Promise<Holds> {
  const bytes = new Uint8Array(await readFile(path));
  if (bytes.length > limits.fileBytes) throw new Refusal("the file is too large");
  if (bytes[0] === 0x89) {
    const { width, height } = readPng(bytes);
    return { kind: "PNG picture", width, height };
  }
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const { width, height, layers, notes } = readOpenRaster(bytes);
    return { kind: "OpenRaster picture", width, height, layers: countOra(layers), notes };
  }
  return ofLog(readWorkLog(new TextDecoder().decode(bytes)));
}

/** What a file holds, for people to read. */
export function inWords(holds: Holds): string {
  const {
    kind,
    width,
    height,
    ppi,
    mode,
    ground,
    paper,
    commands = {},
    layers,
    notes = [],
  } = holds;
  const size = `${width} × ${height} px`;
  const lines: string[] = [kind, ppi === undefined ? size : `${size} at ${ppi} ppi, ${mode}`];
  if (ground !== undefined) lines.push(`ground ${ground}, paper ${paper}`);
  for (const [name, count] of Object.entries(commands)) lines.push(`${count} × ${name}`);
  if (layers !== undefined) lines.push(`${layers} layers`);
  return [...lines, ...notes].join("\n");
}
