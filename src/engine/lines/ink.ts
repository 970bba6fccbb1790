import { hexToQ15 } from "../colour/srgb";
import { DRY_BYTES, writeLaying } from "../dry/laying";
import { brushOf } from "../media";
import { type Picture } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { type Brush, dryOf, hasColours } from "../stroke/brush";
import { chanceOf } from "../stroke/drives";
import { travels, withJoinedTips } from "../stroke/joined-tip";
import { type JoinedTip } from "../stroke/tip-shelf";
import { type Seen } from "../stroke/laying/station";
import { Marks } from "../stroke/marks";
import { type PathPoint } from "../stroke/path";
import { type Bench } from "../bench";
import { NATURAL_PPI } from "../stroke/stroke";
import { taperScale, Walker } from "../stroke/walk";
import {
  CONTACT_BYTES,
  COVERAGE_BYTES,
  ONE,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileRow,
} from "../tiles/layout";
import { LAY, OVERTIP, TAPE } from "../tiles/tape";
import { isClean } from "./drawable";
import { HAND_NUMBERS, type Line } from "./line";
import { reader } from "./profile";
import { addTiles, CHORD_NUMBERS, shapeOf } from "./shape";

/** How far marks of a brush with texture may lie from its line, in its largest half-widths, and px. */
const FAR = { widths: 12, px: 24 };
const NOTHING: Seen = [0, 0, 0, 0];

type Gathers = "coverage" | "paint" | "contact";
const BYTES = { coverage: COVERAGE_BYTES, paint: TILE_BYTES, contact: CONTACT_BYTES } as const;
const LAYS = { coverage: TAPE.marks, paint: TAPE.paintMarks, contact: TAPE.contact } as const;

/** Planes that one tile's lines are worked in, one after another. */
export type Scratch = { first: number; over: number; joined: number };
export const SCRATCH_BYTES = TILE_BYTES + 2 * COVERAGE_BYTES;

/** @throws Refusal where the line's brush is not at hand */
export function brushOfLine(picture: Picture, line: Line): Brush {
  const brush = brushOf(picture, line.brush);
  if (!brush) throw new Refusal(`there is no brush "${line.brush}", which a line was drawn with`);
  return brush;
}

type TrainOfLine = { marks: Marks; gathers: Gathers };

/** A line's marks, ready to be laid on tiles. */
export class LineInk {
  readonly brush: Brush;
  #trains: TrainOfLine[] = [];
  /** How a dry tip's contact is laid: its address, 0 for others. */
  #dry = 0;

  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly line: Line,
  ) {
    this.brush = brushOfLine(picture, line);
    if (isClean(this.brush)) this.#trains.push({ marks: this.#cones(), gathers: "coverage" });
    else this.#walk();
  }

  /** Bytes of its marks. */
  get bytes(): number {
    return this.#trains.reduce((sum, { marks }) => sum + marks.bytes, 0);
  }

  get trains(): readonly TrainOfLine[] {
    return this.#trains;
  }

  free(): void {
    for (const { marks } of this.#trains) marks.free();
    if (this.#dry) this.bench.store.heap.free(this.#dry, DRY_BYTES);
    this.#dry = 0;
  }

  #cones(): Marks {
    const { ends } = shapeOf(this.line);
    const marks = new Marks(this.bench.store.heap, true, true);
    const flow = this.brush.flow.base;
    const n = ends.length / CHORD_NUMBERS;
    for (let i = 0; i + 1 < n; i++) {
      const a = i * CHORD_NUMBERS;
      if (marks.lacksRoomFor(1)) break;
      marks.cone({
        x0: ends[a] as number,
        y0: ends[a + 1] as number,
        r0: ends[a + 2] as number,
        x1: ends[a + 4] as number,
        y1: ends[a + 5] as number,
        r1: ends[a + 6] as number,
        flow,
      });
    }
    return marks;
  }

  /** Lays the brush's marks along the curve again, by its material. */
  #walk(): void {
    const { bench, picture, line } = this;
    const { brush: own } = this;
    const joined = travels(own) && !dryOf(own) ? withJoinedTips(own) : { brush: own, tips: [] };
    const contact = dryOf(own);
    const taper = line.closed ? { in: 0, out: 0 } : line.taper;
    const scale = taperScale(line.size);
    const brush: Brush = {
      ...joined.brush,
      diameter: chanceOf(joined.brush.diameter),
      taper: { ...own.taper, in: taper.in / scale, out: taper.out / scale },
    };
    const gathers: Gathers = contact ? "contact" : hasColours(own) ? "paint" : "coverage";
    this.#train(brush, brush, gathers, joined.tips);
    if (brush.overtip && !contact) this.#train(brush, brush.overtip, "coverage", []);
    if (contact) this.#dry = bench.store.heap.allocate(DRY_BYTES);
    if (!contact) return;
    const altitude = line.hand[2] as number;
    const tilt = Math.max(0, 1 - altitude / (Math.PI / 2));
    const [r = 0, g = 0, b = 0] = hexToQ15(line.colour);
    writeLaying(bench.store.heap, this.#dry, {
      contact,
      how: "lay",
      strength: line.strength,
      colour: [r / ONE, g / ONE, b / ONE],
      radius: ((line.size / 2) * (1 + 2.5 * tilt)) / (picture.mediaPpi / NATURAL_PPI),
      roughness: bench.paper(picture).roughness,
      dissolves: 0,
      grit: bench.grit(contact.particle),
      place: line.seed,
    });
  }

  #train(
    brush: Brush,
    train: Brush | NonNullable<Brush["overtip"]>,
    gathers: Gathers,
    joined: readonly JoinedTip[],
  ): void {
    const { bench, picture, line } = this;
    const { tip } = train;
    const own = tip.kind === "pictures" ? tip.pictures.map((one) => bench.tips.get(one)) : [];
    const { width, height, structure } = picture;
    const walker = new Walker({
      brush,
      train,
      size: line.size,
      scale: 1,
      seed: line.seed,
      mode: "paint",
      colour: line.colour,
      second: line.second,
      painted: gathers === "paint",
      tips: joined.length > 0 ? joined.map((one) => bench.tips.joined(one)) : own,
      before: () => NOTHING,
      sheet: { width, height },
      tooth: {
        roughness: gathers === "contact" ? bench.paper(picture).roughness : 1,
        grain: structure.paper.scale,
        perPixel: picture.mediaPpi / NATURAL_PPI,
      },
    });
    const marks = new Marks(bench.store.heap, gathers === "coverage", true);
    const points = pathOf(line);
    const total = points.at(-1)?.s ?? 0;
    const state = walker.fromStart();
    walker.walk(state, points, total, total, marks, null);
    // What goes from place to place reaches the line's very end.
    if ((walker.asLine || walker.rubs) && state.last && total - state.last.s > 1e-6) {
      state.at = total;
      state.next = points.length - 1;
      walker.walk(state, points, total, total, marks, null);
    }
    this.#trains.push({ marks, gathers });
  }

  /** Writes what lays the line on a tile, over what lies there. */
  write(key: number, tile: number, scratch: Scratch): void {
    const { workforce, noise, store } = this.bench;
    const paper = this.bench.paper(this.picture);
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const side = (v: number): number => Math.min(TILE_SIDE, Math.max(0, v));
    const [first, over] = this.#trains;
    if (!first) return;
    const { bounds } = first.marks;
    const reach = [
      side(bounds.left - px) >> 3,
      side(bounds.top - py),
      (side(bounds.right - px) + 7) >> 3,
      side(bounds.bottom - py),
    ];
    const planes = [scratch.first, scratch.over];
    this.#trains.forEach(({ marks, gathers }, i) => {
      const plane = planes[i] as number;
      workforce.write(TAPE.clear, plane, BYTES[gathers]);
      const what = [LAYS[gathers], plane, px, py, marks.address, marks.count];
      if (gathers !== "contact") what.push(noise);
      workforce.write(...what, paper.address, paper.period);
    });
    const { overtip } = this.brush;
    const isPainted = first.gathers === "paint";
    if (over && overtip)
      workforce.write(
        TAPE.combine,
        scratch.joined,
        scratch.first,
        scratch.over,
        OVERTIP[overtip.mode],
        isPainted ? 1 : 0,
      );
    const joined = over ? scratch.joined : 0;
    const strength = Math.round(this.line.strength * ONE);
    const [r = 0, g = 0, b = 0] = hexToQ15(this.line.colour);
    if (first.gathers === "contact")
      workforce.write(
        TAPE.layContact,
        tile,
        tile,
        0,
        store.nothing,
        scratch.first,
        0,
        this.#dry,
        paper.address,
        paper.period,
        px,
        py,
        ...reach,
      );
    else if (isPainted)
      workforce.write(
        TAPE.layPaint,
        tile,
        tile,
        scratch.first,
        joined,
        LAY.paint,
        strength,
        ...reach,
      );
    else
      workforce.write(
        TAPE.lay,
        tile,
        tile,
        joined || scratch.first,
        LAY.paint,
        r,
        g,
        b,
        strength,
        ...reach,
      );
  }
}

const at = (list: ArrayLike<number>, i: number): number => list[i] as number;

/** Azimuths apart are mixed the short way round. */
function between(a: number, b: number, t: number, isAngle: boolean): number {
  let off = b - a;
  if (isAngle && off > Math.PI) off -= 2 * Math.PI;
  if (isAngle && off < -Math.PI) off += 2 * Math.PI;
  return a + off * t;
}

/** How the pen was held at a material: pressure, altitude, azimuth, twist, speed. */
export function handReader(
  hand: readonly number[],
): (m: number) => [number, number, number, number, number] {
  const n = hand.length / HAND_NUMBERS;
  let i = 0;
  return (m) => {
    if (m < at(hand, i * HAND_NUMBERS)) i = 0;
    while (i + 2 < n && m > at(hand, (i + 1) * HAND_NUMBERS)) i++;
    const a = i * HAND_NUMBERS;
    const b = Math.min(n - 1, i + 1) * HAND_NUMBERS;
    const span = at(hand, b) - at(hand, a);
    const t = span > 1e-9 ? Math.min(1, Math.max(0, (m - at(hand, a)) / span)) : 0;
    const mix = (k: number): number =>
      between(at(hand, a + k), at(hand, b + k), t, k === 3 || k === 4);
    return [mix(1), mix(2), mix(3), mix(4), mix(5)];
  };
}

/** A line as a path for a brush: its lengths are its material, so that texture stays where it is. */
export function pathOf(line: Line): PathPoint[] {
  const { ends } = shapeOf(line);
  const hand = handReader(line.hand);
  const width = reader(line.width);
  const start = at(line.curve.material, 0);
  const points: PathPoint[] = [];
  for (let i = 0; i < ends.length; i += CHORD_NUMBERS) {
    const m = at(ends, i + 3);
    const [pressure, altitude, azimuth, twist, speed] = hand(m);
    points.push({
      s: Math.max(points.at(-1)?.s ?? 0, m - start),
      t: 0,
      x: at(ends, i),
      y: at(ends, i + 1),
      pressure,
      altitude,
      azimuth,
      twist,
      speed,
      wide: (2 * width(m)) / line.size,
    });
  }
  return points;
}

const tilesKnown = new WeakMap<Line, Set<number>>();

/** The tiles that a line reaches; worked out once for each line on its sheet. */
export function tilesOfLine(bench: Bench, picture: Picture, line: Line): Set<number> {
  const known = tilesKnown.get(line);
  if (known) return known;
  const keys = new Set<number>();
  const brush = brushOfLine(picture, line);
  if (isClean(brush)) {
    const shape = shapeOf(line);
    addTiles(shape, 0, Math.max(1, shape.ends.length / CHORD_NUMBERS - 1), picture, keys);
  } else {
    const ink = new LineInk(bench, picture, line);
    for (const { marks } of ink.trains) marks.addTiles(picture, keys);
    ink.free();
  }
  tilesKnown.set(line, keys);
  return keys;
}

/** Forgets which tiles a line reaches: its brush has changed. */
export const forgetTiles = (line: Line): boolean => tilesKnown.delete(line);

/** Whether a line may reach a box of the sheet at all: quick, and never wrongly no. */
export function mayReach(
  picture: Picture,
  line: Line,
  left: number,
  top: number,
  right: number,
  bottom: number,
): boolean {
  const { box } = shapeOf(line);
  let room = 2;
  if (!isClean(brushOfLine(picture, line))) {
    let widest = line.size;
    for (let i = 1; i < line.width.length; i += 2) widest = Math.max(widest, at(line.width, i));
    room = FAR.px + FAR.widths * widest;
  }
  return (
    box.left - room < right &&
    box.right + room > left &&
    box.top - room < bottom &&
    box.bottom + room > top
  );
}
