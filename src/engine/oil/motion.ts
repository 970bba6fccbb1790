import { type Chance } from "../stroke/chance";
import { type Bristles } from "./bristles";
import { type Bristle, type Bundle, power0625 } from "./bundle";

const { abs, cos, floor, max, min, sin, sqrt } = Math;

/** Where the hand is at a step of the tuft. */
export type Hand = {
  x: number;
  y: number;
  pressure: number;
  /** px a second */
  speed: number;
  altitude: number;
  azimuth: number;
};

/** 1 − 1/(1 + x + x²/2 + x³/6), which stands for 1 − e^(−x). */
export const grows = (x: number): number => 1 - 1 / (1 + x * (1 + x * (0.5 + x / 6)));

/** The path's direction is followed over this share of the tuft's width. */
const TURN_OVER = 0.25;
const SPEED_OVER = 0.5;
/** Tips follow over this share of the width, and trail by so much of it. */
const FOLLOW_OVER = 0.13;
const TRAIL = 0.16;
/** How far a tip trembles, in its radii, and over how many px of the way. */
const TREMBLE = 0.35;
const TREMBLE_OVER = 14;
/** From touching to pressed wholly down. */
const PRESSED_OVER = 0.42;

/** How a tuft follows the hand: where the tip of each bristle is, and how hard it is pressed. */
export class Motion {
  /** The direction of travel, of length 1. */
  dirX = 1;
  dirY = 0;
  speed = 0;
  /** How far the tuft has come, px. */
  way = 0;
  /** How full its bristles are on the whole, 0…1. */
  full = 0;
  #begun = false;
  /** How tips tremble: for each bristle where to, across and down, at the last knot of the way and at the next. */
  #trembles: Float64Array;
  #knot = -1;

  constructor(
    readonly style: Bristles,
    readonly bundle: Bundle,
    readonly width: number,
    readonly chance: Chance,
  ) {
    this.#trembles = new Float64Array(bundle.bristles.length * 4);
  }

  /** Sets the tuft down, about to go in a direction (of length 1). */
  begin(hand: Hand, dirX: number, dirY: number): void {
    this.dirX = dirX;
    this.dirY = dirY;
    this.speed = hand.speed;
    this.#move(hand, 0);
    for (const bristle of this.bundle.bristles) {
      bristle.sweptX = bristle.x;
      bristle.sweptY = bristle.y;
    }
  }

  /** Follows the hand over `length` px toward (dirX, dirY). */
  follow(hand: Hand, length: number, dirX: number, dirY: number): void {
    const turn = grows(length / (TURN_OVER * this.width));
    const x = this.dirX + (dirX - this.dirX) * turn;
    const y = this.dirY + (dirY - this.dirY) * turn;
    const size = sqrt(x * x + y * y);
    // A tuft that goes straight back goes back: it has no direction in between.
    [this.dirX, this.dirY] = size > 0.05 ? [x / size, y / size] : [dirX, dirY];
    this.speed += (hand.speed - this.speed) * grows(length / (SPEED_OVER * this.width));
    this.way += length;
    this.#move(hand, length);
  }

  /** Sees to it that the knots of trembling are those around a place of the way. Returns how far it is between them. */
  #tremble(): number {
    const at = this.way / TREMBLE_OVER;
    const knot = floor(at);
    const t = at - knot;
    if (knot !== this.#knot) {
      const trembles = this.#trembles;
      const first = (knot & 0xffff) * trembles.length;
      const next = ((knot + 1) & 0xffff) * trembles.length;
      for (let i = 0; i < trembles.length; i += 4) {
        trembles[i] = this.chance.at(first + i) * 2 - 1;
        trembles[i + 1] = this.chance.at(first + i + 1) * 2 - 1;
        trembles[i + 2] = this.chance.at(next + i) * 2 - 1;
        trembles[i + 3] = this.chance.at(next + i + 1) * 2 - 1;
      }
      this.#knot = knot;
    }
    return t * t * (3 - 2 * t);
  }

  #move(hand: Hand, length: number): void {
    const { style, width, dirX, dirY } = this;
    const { bristles } = this.bundle;
    const p = hand.pressure;
    const alongX = style.turns ? dirX : 0;
    const alongY = style.turns ? dirY : 1;
    const gather =
      (0.62 * (1 - p) * (1 - p) + 0.12) * (1 - 0.65 * this.full) * (1 - 0.6 * style.soft);
    const spread = style.outline === "round" ? 0.5 + 0.5 * power0625(p) : 0.86 + 0.16 * p;
    const tilt = max(0, 1 - hand.altitude / (Math.PI / 2));
    const tiltX = cos(hand.azimuth);
    const tiltY = sin(hand.azimuth);
    const far = TREMBLE * (1 + 2.5 * style.soft);
    const t = this.#tremble();
    const trail = TRAIL * width * style.trails * (0.3 + p);
    for (let i = 0; i < bristles.length; i++) {
      const b = bristles[i] as Bristle;
      const grown = spread * (1 + b.splay * p * p);
      const u = (b.across + (b.clumpAcross - b.across) * gather) * grown;
      const v = (b.along + (b.clumpAlong - b.along) * gather) * grown;
      let x = v * alongX - u * alongY;
      let y = v * alongY + u * alongX;
      const on = max(-width / 2, min(width / 2, x * tiltX + y * tiltY));
      const shift = 0.9 * tilt * on * (1 - (1.1 * abs(on)) / width);
      const pressure = p * (1 - 0.35 * tilt) * (1 + (0.7 * tilt * on) / width);
      b.press = max(0, min(1.2, (pressure - b.from) / PRESSED_OVER));
      x += hand.x + shift * tiltX + far * b.radius * this.#trembleOf(4 * i, t);
      y += hand.y + shift * tiltY + far * b.radius * this.#trembleOf(4 * i + 1, t);
      if (this.#begun) this.#pull(b, x, y, trail * b.trails, length);
      else {
        b.x = x;
        b.y = y;
      }
    }
    this.#begun = true;
  }

  #trembleOf(at: number, t: number): number {
    const from = this.#trembles[at] as number;
    return from + ((this.#trembles[at + 2] as number) - from) * t;
  }

  /** A tip goes toward where the hand wants it, behind by how far it trails. */
  #pull(b: Bristle, x: number, y: number, trail: number, length: number): void {
    const share = grows(length / (FOLLOW_OVER * this.width * b.stiffness));
    const stepX = (x - this.dirX * trail - b.x) * share;
    const stepY = (y - this.dirY * trail - b.y) * share;
    b.x += stepX;
    b.y += stepY;
    b.way += sqrt(stepX * stepX + stepY * stepY);
  }
}
