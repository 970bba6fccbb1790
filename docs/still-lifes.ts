import { chromium, type Page } from "@playwright/test";
import { exported, settled, tableReady } from "../e2e/table";
import { Pen, type PenPoint } from "../e2e/pen";
import { writeFile } from "node:fs/promises";

/**
 * Draws studies through the interface with a simulated pen, and keeps them in docs/sheets: a sphere in graphite,
 * a folded cloth in charcoal, three pears in pastel and in oil.
 * `npx tsx docs/still-lifes.ts ADDRESS [sphere|cloth|pears|pears-oil]` beside a running Pampas.
 */
const address = process.argv[2] ?? "http://localhost:3000";
const only = process.argv[3];
const SIZE = { width: 1200, height: 900 };
const PENCILS = "Pencils";
const CHARCOAL = "Charcoal and chalk";
const PASTEL = "Pastel and wax";
const POWDER = "Stumps and erasers";
const OIL = "Oil";

type Tone = (x: number, y: number) => number;
type Place = [x: number, y: number, pressure: number];

const clamp = (v: number): number => Math.min(1, Math.max(0, v));
const smooth = (a: number, b: number, v: number): number => {
  const t = clamp((v - a) / (b - a));
  return t * t * (3 - 2 * t);
};

/** A hand that hesitates the same way every time. */
let state = 7;
const chance = (): number => (state = (state * 16807) % 2147483647) / 2147483647;

/** The hand at the table: places are px of the sheet. */
class Hand {
  #matrix: number[] = [1, 0, 0, 1, 0, 0];
  #tilt = 0;
  #lean = 0;

  private constructor(
    readonly page: Page,
    readonly pen: Pen,
  ) {}

  static async at(page: Page, title: string, paper: string, ground: string): Promise<Hand> {
    await page.goto(address);
    await page.getByRole("button", { name: "New picture" }).first().click();
    const dialog = page.getByRole("dialog");
    await dialog.getByRole("radio", { name: /Own size/ }).click();
    await dialog.getByLabel("Unit").selectOption("px");
    await dialog.getByLabel("Width").fill(String(SIZE.width));
    await dialog.getByLabel("Height").fill(String(SIZE.height));
    await dialog.getByLabel("Title").fill(title);
    await dialog.getByRole("radio", { name: paper }).click();
    await dialog.getByRole("radio", { name: ground, exact: true }).click();
    await dialog.getByRole("button", { name: "Lay out the sheet" }).click();
    await tableReady(page);
    const hand = new Hand(page, await Pen.on(page));
    const view = page.getByTestId("view");
    const box = await view.boundingBox();
    const matrix = ((await view.getAttribute("data-matrix")) ?? "").split(" ").map(Number);
    if (!box || matrix.length !== 6) throw new Error("there is no view");
    hand.#matrix = matrix;
    (hand.#matrix[4] as number) += box.x;
    (hand.#matrix[5] as number) += box.y;
    return hand;
  }

  async take(kit: string, brush: string, size: number, colour?: string): Promise<void> {
    const { page } = this;
    await page.getByRole("tab", { name: kit, exact: true }).click();
    await page.getByRole("radio", { name: brush, exact: true }).click();
    await page.getByLabel("Brush px").fill(String(size));
    await page.getByLabel("Brush px").press("Enter");
    if (!colour) return;
    await page.getByLabel("Colour as hex").fill(colour);
    await page.getByLabel("Colour as hex").press("Enter");
  }

  /** How the pen is held from here on: 0 upright … 1 lying, leaning to an angle. */
  hold(tilt: number, lean = -0.9): void {
    this.#tilt = tilt;
    this.#lean = lean;
  }

  async draw(places: readonly Place[]): Promise<void> {
    if (places.length < 2) return;
    const [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0] = this.#matrix;
    const degrees = this.#tilt * 62;
    await this.pen.stroke(
      places.map(([x, y, pressure], i): PenPoint => ({
        x: a * x + c * y + e,
        y: b * x + d * y + f,
        pressure: clamp(pressure),
        tiltX: Math.round(degrees * Math.cos(this.#lean)),
        tiltY: Math.round(degrees * Math.sin(this.#lean)),
        ms: i * 9,
      })),
    );
  }

  /** Hatches where a tone asks for it: lines of an angle, so far apart, bent a little, pressed as the tone says. */
  async hatch(
    tone: Tone,
    {
      angle,
      apart,
      press,
      bend = 0,
      margin = 14,
    }: { angle: number; apart: number; press: number; bend?: number; margin?: number },
  ): Promise<void> {
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const reach = Math.hypot(SIZE.width, SIZE.height) / 2;
    const [mx, my] = [SIZE.width / 2, SIZE.height / 2];
    let back = false;
    for (let across = -reach; across < reach; across += apart * (0.8 + 0.4 * chance())) {
      let run: Place[] = [];
      const runs: Place[][] = [];
      const from = -reach + 20 * chance();
      for (let along = from; along < reach; along += 7) {
        const off = across + bend * (1 - (along / reach) ** 2) * 60 + (chance() - 0.5) * 0.8;
        const [x, y] = [mx + cos * along - sin * off, my + sin * along + cos * off];
        const [right, bottom] = [SIZE.width - margin, SIZE.height - margin];
        const inside = x > margin && y > margin && x < right && y < bottom;
        const wanted = inside ? tone(x, y) : 0;
        if (wanted > 0.03) run.push([x, y, press * (0.03 + 0.97 * wanted)]);
        else if (run.length > 0) {
          runs.push(run);
          run = [];
        }
      }
      if (run.length > 0) runs.push(run);
      for (const one of runs) {
        if (one.length < 3) continue;
        const [first, last] = [one[0] as Place, one.at(-1) as Place];
        first[2] *= 0.5;
        last[2] *= 0.4;
        await this.draw(back ? one.toReversed() : one);
        back = !back;
      }
    }
  }

  async keep(name: string): Promise<void> {
    await settled(this.page);
    await writeFile(`docs/sheets/${name}.png`, await exported(this.page, "PNG"));
  }
}

const line = (from: Place, to: Place, steps = 24, bow = 0): Place[] =>
  Array.from({ length: steps + 1 }, (_, i) => {
    const u = i / steps;
    const s = Math.sin(Math.PI * u) * bow;
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const d = Math.hypot(dx, dy) || 1;
    return [
      from[0] + dx * u - (dy / d) * s + (chance() - 0.5),
      from[1] + dy * u + (dx / d) * s + (chance() - 0.5),
      from[2] + (to[2] - from[2]) * u,
    ];
  });

/** Light from the upper left, and what comes back from the table. */
const lit = (nx: number, ny: number, nz: number): number => {
  const direct = Math.max(0, -0.55 * nx - 0.6 * ny + 0.58 * nz);
  const back = 0.2 * Math.max(0, 0.4 * nx + 0.85 * ny) * (1 - nz);
  return clamp(direct + back + 0.06);
};

async function sphere(page: Page): Promise<void> {
  const hand = await Hand.at(page, "Sphere", "Cold-pressed", "Warm white");
  const [cx, cy, r] = [600, 420, 230];
  const shade: Tone = (x, y) => {
    const [nx, ny] = [(x - cx) / r, (y - cy) / r];
    const d = nx * nx + ny * ny;
    return d >= 0.985 ? 0 : 1 - lit(nx, ny, Math.sqrt(1 - d));
  };
  const cast: Tone = (x, y) => {
    const [u, v] = [(x - 790) / 300, (y - 655) / 52];
    const d = Math.sqrt(u * u + v * v + 0.35 * u * v);
    return shade(x, y) > 0 || y < cy ? 0 : 0.95 * (1 - smooth(0.35, 1, d));
  };
  const wall: Tone = (x, y) => {
    if ((x - cx) ** 2 + (y - cy) ** 2 < (r + 1) ** 2 || y > 610) return 0;
    return clamp(0.5 - 0.42 * ((x - 120) / 1000) + 0.12 * ((600 - y) / 500));
  };
  await hand.take(PENCILS, "HB pencil", 5, "#3a3c40");
  hand.hold(0.1);
  const ring = (grow: number): Place[] =>
    Array.from({ length: 90 }, (_, i) => {
      const t = (i / 84) * 2 * Math.PI + 0.6;
      return [
        cx + (r + grow) * Math.cos(t),
        cy + (r + grow) * Math.sin(t),
        0.28 + 0.2 * Math.sin(t),
      ];
    });
  await hand.draw(ring(0));
  await hand.draw(line([60, 612, 0.3], [1140, 606, 0.25], 60));
  await hand.take(PENCILS, "HB pencil", 6);
  hand.hold(0.85);
  await hand.hatch((x, y) => 0.75 * smooth(0.02, 0.6, shade(x, y)), {
    angle: -0.3,
    apart: 6,
    press: 0.45,
    bend: 0.7,
  });
  await hand.take(PENCILS, "2B pencil", 7);
  hand.hold(0.75);
  await hand.hatch(wall, { angle: -0.9, apart: 7, press: 0.5 });
  await hand.hatch((x, y) => smooth(0.08, 0.85, shade(x, y)), {
    angle: -0.75,
    apart: 6,
    press: 0.5,
    bend: 0.7,
  });
  await hand.hatch((x, y) => smooth(0.4, 0.95, shade(x, y)), {
    angle: 0.35,
    apart: 6,
    press: 0.55,
    bend: -0.8,
  });
  await hand.hatch(cast, { angle: 0.05, apart: 5.5, press: 0.6 });
  await hand.take(POWDER, "Stump", 34);
  hand.hold(0.3);
  await hand.hatch((x, y) => smooth(0.15, 0.7, shade(x, y)), {
    angle: 0.75,
    apart: 16,
    press: 0.4,
    bend: 0.8,
  });
  await hand.take(PENCILS, "6B pencil", 10, "#26272b");
  hand.hold(0.5);
  await hand.hatch((x, y) => smooth(0.66, 1.05, shade(x, y)), {
    angle: -0.8,
    apart: 6,
    press: 0.6,
    bend: 0.7,
  });
  await hand.hatch((x, y) => smooth(0.55, 1, cast(x, y)), { angle: -0.12, apart: 5, press: 0.8 });
  await hand.take(POWDER, "Kneaded eraser", 40);
  hand.hold(0);
  for (let i = 0; i < 3; i++)
    await hand.draw(line([505 + i * 6, 318, 0.5], [548 + i * 6, 292, 0.5], 10));
  await hand.take(PENCILS, "2B pencil", 5, "#303236");
  hand.hold(0.1);
  await hand.draw(
    ring(0.5)
      .slice(0, 40)
      .map(([x, y, p]): Place => [x, y, p + 0.25]),
  );
  await hand.keep("still-life-sphere");
}

async function cloth(page: Page): Promise<void> {
  const hand = await Hand.at(page, "Cloth", "Cold-pressed", "Cream");
  const [px, py] = [560, 120];
  /** Folds hang from a nail: ridges that open as they fall. */
  const height = (x: number, y: number): number => {
    const [dx, dy] = [x - px, y - py + 60];
    const r = Math.hypot(dx, dy);
    const t = Math.atan2(dx, dy);
    const fade = smooth(40, 420, r);
    // Ridges are rounder than the valleys between them.
    const fold = (v: number): number => 1 - Math.abs(Math.sin(v)) ** 1.6;
    return (
      fade *
        (36 * fold(t * 9.5 + 0.5 + 0.4 * Math.sin(r / 150)) * (0.7 + 0.3 * Math.sin(t * 5 + 2)) +
          17 * fold(t * 17 + 0.9 + r / 260) * smooth(200, 480, r) +
          16 * Math.sin(t * 4 - 1)) +
      // Where the weight hangs through, folds break across.
      9 * Math.sin(r / 46 + 2.2 * Math.sin(t * 6)) * smooth(260, 420, r) * smooth(560, 430, r)
    );
  };
  const edge = (t: number): number =>
    600 + 40 * Math.sin(t * 9 + 1) + 26 * Math.sin(t * 4 + 2) - 120 * t * t;
  const inside = (x: number, y: number): boolean => {
    const [dx, dy] = [x - px, y - py + 12];
    const t = Math.atan2(dx, dy);
    return Math.abs(t) < 0.72 + 0.04 * Math.sin(dy / 70) && Math.hypot(dx, dy) < edge(t) && dy > 0;
  };
  const shade: Tone = (x, y) => {
    if (!inside(x, y)) return 0;
    const e = 3;
    const [gx, gy] = [
      (height(x + e, y) - height(x - e, y)) / (2 * e),
      (height(x, y + e) - height(x, y - e)) / (2 * e),
    ];
    const n = 1 / Math.sqrt(gx * gx + gy * gy + 0.8);
    return clamp(1.02 - lit(-gx * n, -gy * n, 0.9 * n));
  };
  const wall: Tone = (x, y) =>
    inside(x, y)
      ? 0
      : clamp(0.36 + 0.3 * (inside(x - 40, y - 26) ? 1 : 0) - 0.18 * smooth(200, 1000, x));
  await hand.take(CHARCOAL, "Charcoal on its side", 90, "#2b2826");
  await hand.hatch(wall, { angle: 1.2, apart: 46, press: 0.3 });
  await hand.hatch((x, y) => smooth(0.3, 0.8, shade(x, y)), { angle: 1.5, apart: 26, press: 0.3 });
  await hand.take(CHARCOAL, "Vine charcoal", 16, "#262422");
  hand.hold(0.5, -0.5);
  await hand.hatch((x, y) => smooth(0.32, 0.9, shade(x, y)), { angle: 1.35, apart: 8, press: 0.5 });
  await hand.hatch((x, y) => smooth(0.3, 0.6, wall(x, y)) * 0.8, {
    angle: -0.7,
    apart: 12,
    press: 0.45,
  });
  await hand.take(POWDER, "Fingertip", 46);
  hand.hold(0);
  await hand.hatch((x, y) => smooth(0.3, 0.7, shade(x, y)), { angle: 1.5, apart: 26, press: 0.4 });
  await hand.take(CHARCOAL, "Charcoal pencil", 9, "#1b1a1a");
  hand.hold(0.35);
  await hand.hatch((x, y) => smooth(0.68, 1, shade(x, y)), { angle: 1.2, apart: 6, press: 0.65 });
  await hand.hatch((x, y) => smooth(0.86, 1.05, shade(x, y)), {
    angle: 1.9,
    apart: 6,
    press: 0.85,
  });
  await hand.take(POWDER, "Kneaded eraser", 22);
  await hand.hatch((x, y) => (inside(x, y) ? smooth(0.34, 0.1, shade(x, y)) : 0), {
    angle: 1.55,
    apart: 16,
    press: 0.5,
  });
  await hand.take(CHARCOAL, "Charcoal pencil", 6, "#1b1a1a");
  hand.hold(0.1);
  for (const side of [-1, 1]) {
    const border: Place[] = [];
    for (let t = 0; t <= 36; t++) {
      const a = side * 0.02 * (36 - t);
      border.push([
        px + Math.sin(a) * edge(a),
        py - 12 + Math.cos(a) * edge(a),
        0.25 + 0.4 * Math.abs(Math.sin(a * 9)),
      ]);
    }
    await hand.draw(border);
  }
  for (const side of [-1, 1]) {
    const [x, y] = [px + Math.sin(side * 0.73) * edge(0.73), py - 12 + Math.cos(0.73) * edge(0.73)];
    await hand.draw(line([px + side * 4, py - 6, 0.3], [x, y, 0.5], 40, side * 10));
  }
  await hand.draw(line([px - 6, py - 26, 0.9], [px + 4, py + 4, 0.6], 8));
  await hand.keep("still-life-cloth");
}

type Pear = { x: number; y: number; size: number; lean: number; flesh: string[] };

/** Three pears on a table: which one is seen at a place and how light it is there, and their shadows. */
function pearScene(): {
  all: readonly Pear[];
  seen: (x: number, y: number) => [number, number] | null;
  cast: Tone;
  /** One side of a pear's outline, from its foot up; −1 the left one, 1 the right one. */
  side: (pear: Pear, which: -1 | 1, grow: number, press: number) => Place[];
} {
  const all: Pear[] = [
    { x: 395, y: 520, size: 300, lean: -0.12, flesh: ["#4a4a26", "#8b8f36", "#c9b84a", "#f0dc84"] },
    { x: 845, y: 540, size: 290, lean: 0.3, flesh: ["#5a3a22", "#a36a2c", "#d99a3c", "#f4d488"] },
    { x: 620, y: 600, size: 320, lean: 0.04, flesh: ["#40502c", "#7a9440", "#b8c050", "#ecec9c"] },
  ];
  /** Half the width of a pear from its stem (0) to its foot (1). */
  const half = (v: number): number => {
    const round = (middle: number, radius: number): number =>
      Math.sqrt(Math.max(0, 1 - ((v - middle) / radius) ** 2));
    return ((0.37 * round(0.66, 0.34)) ** 2.6 + (0.19 * round(0.27, 0.27)) ** 2.6) ** (1 / 2.6);
  };
  const normal = (
    { x: cx, y: cy, size, lean }: Pear,
    x: number,
    y: number,
  ): [number, number, number] | null => {
    const [c, s] = [Math.cos(lean), Math.sin(lean)];
    const [dx, dy] = [x - cx, y - cy];
    const [u, v] = [(dx * c + dy * s) / size, (dy * c - dx * s) / size + 0.5];
    const w = half(v);
    if (w === 0 || Math.abs(u) > w) return null;
    const nx = u / w;
    const slope = (half(v + 0.02) - half(v - 0.02)) / 0.04;
    const ny = -slope * Math.sqrt(1 - nx * nx) * 0.8 + (v > 0.8 ? (v - 0.8) * 3 : 0);
    const n = 1 / Math.sqrt(1 + ny * ny);
    return [(nx * c - ny * s) * n, (ny * c + nx * s) * n, Math.sqrt(1 - nx * nx) * n];
  };
  /** The pear that is in front at a place. */
  const seen = (x: number, y: number): [number, number] | null => {
    for (let i = all.length - 1; i >= 0; i--) {
      const own = normal(all[i] as Pear, x, y);
      if (own) return [i, lit(...own)];
    }
    return null;
  };
  const cast: Tone = (x, y) => {
    if (seen(x, y)) return 0;
    let most = 0;
    for (const { x: cx, y: cy, size } of all) {
      const [u, v] = [
        (x - cx - size * 0.42) / (size * 0.75),
        (y - cy - size * 0.42) / (size * 0.13),
      ];
      most = Math.max(most, 1 - smooth(0.3, 1, Math.hypot(u, v)));
    }
    return most;
  };
  const side = (
    { x: cx, y: cy, size, lean }: Pear,
    which: -1 | 1,
    grow: number,
    press: number,
  ): Place[] =>
    Array.from({ length: 40 }, (_, i) => {
      const v = 0.985 - (0.96 * i) / 39;
      const u = which * (half(v) + grow / size);
      const [c, s] = [Math.cos(lean), Math.sin(lean)];
      const [dx, dy] = [u * size, (v - 0.5) * size];
      return [cx + dx * c - dy * s, cy + dx * s + dy * c, press * (0.7 + 0.3 * Math.sin(i / 6))];
    });
  return { all, seen, cast, side };
}

async function pears(page: Page): Promise<void> {
  const hand = await Hand.at(page, "Three pears", "Sugar paper", "Slate");
  const { all, seen, cast } = pearScene();
  const TABLE = 640;
  await hand.take(PASTEL, "Soft pastel on its side", 100, "#2a3440");
  await hand.hatch((x, y) => (seen(x, y) || y > TABLE ? 0 : 0.7), {
    angle: -0.6,
    apart: 44,
    press: 0.42,
  });
  await hand.take(PASTEL, "Soft pastel on its side", 100, "#a8785a");
  await hand.hatch((x, y) => (seen(x, y) || y <= TABLE ? 0 : 0.75 - 0.5 * cast(x, y)), {
    angle: 0.04,
    apart: 34,
    press: 0.5,
  });
  await hand.take(PASTEL, "Soft pastel", 24, "#3a2c3e");
  await hand.hatch((x, y) => smooth(0.1, 0.8, cast(x, y)), { angle: 0.06, apart: 11, press: 0.6 });
  for (const [i, { flesh }] of all.entries()) {
    const of =
      (tone: (light: number) => number): Tone =>
      (x, y) => {
        const here = seen(x, y);
        return here && here[0] === i ? tone(here[1]) : 0;
      };
    const [dark = "", middle = "", light = "", high = ""] = flesh;
    await hand.take(PASTEL, "Soft pastel", 22, dark);
    await hand.hatch(
      of((l) => smooth(0.75, 0.2, l)),
      { angle: 1.2, apart: 10, press: 0.7, bend: 0.5 },
    );
    await hand.take(PASTEL, "Soft pastel", 22, middle);
    await hand.hatch(
      of((l) => smooth(0.12, 0.4, l) * smooth(1.1, 0.6, l)),
      { angle: 0.9, apart: 10, press: 0.6, bend: 0.6 },
    );
    await hand.take(PASTEL, "Soft pastel", 18, light);
    await hand.hatch(
      of((l) => smooth(0.4, 0.8, l)),
      { angle: 0.7, apart: 9, press: 0.65, bend: 0.6 },
    );
    await hand.take(POWDER, "Fingertip", 26);
    await hand.hatch(
      of((l) => (l < 0.62 ? 0.7 : 0)),
      { angle: 0.9, apart: 13, press: 0.16, bend: 0.6 },
    );
    await hand.take(PASTEL, "Hard pastel", 10, i === 1 ? "#8c2f26" : "#b8542c");
    await hand.hatch(
      of((l) => smooth(0.3, 0.5, l) * smooth(0.72, 0.5, l) * 0.8),
      { angle: 1.3, apart: 13, press: 0.5, bend: 0.5 },
    );
    await hand.take(PASTEL, "Hard pastel", 12, high);
    await hand.hatch(
      of((l) => smooth(0.86, 1, l)),
      { angle: 0.6, apart: 8, press: 0.8, bend: 0.4 },
    );
  }
  await hand.take(PASTEL, "Conté crayon", 10, "#2a1c16");
  for (const { x, y, size, lean } of all) {
    const [sx, sy] = [x + Math.sin(lean) * size * 0.49, y - Math.cos(lean) * size * 0.49];
    await hand.draw(line([sx, sy + 8, 0.8], [sx + 14 + lean * 60, sy - 46, 0.55], 14, 8));
  }
  await hand.keep("still-life-pears");
}

/** The same pears in oil on canvas: a thin ground, then wet into wet, lights last and thick. */
async function pearsInOil(page: Page): Promise<void> {
  const hand = await Hand.at(page, "Three pears in oil", "Canvas", "Cream");
  const { all, seen, cast, side } = pearScene();
  const TABLE = 640;
  const background: Tone = (x, y) => (seen(x, y) || y > TABLE ? 0 : 0.9);
  await page.getByRole("tab", { name: "Paint", exact: true }).click();
  await hand.take(OIL, "House brush", 190, "#7a5a3c");
  await page.getByLabel("Thinner").fill("45");
  await hand.hatch(() => 0.8, { angle: 0.15, apart: 120, press: 0.7, margin: -16 });
  await page.getByRole("button", { name: "Dry now" }).click();
  await settled(page);
  await hand.take(OIL, "Hog flat", 84, "#3c4a52");
  await hand.hatch(background, { angle: -0.55, apart: 52, press: 0.7, bend: 0.5, margin: -16 });
  await hand.take(OIL, "Hog flat", 70, "#56646a");
  await hand.hatch(
    (x, y) => (background(x, y) > 0 ? smooth(560, 160, Math.hypot(x - 180, y - 200)) : 0),
    {
      angle: 0.5,
      apart: 84,
      press: 0.55,
    },
  );
  await hand.take(OIL, "Hog flat", 80, "#b08a64");
  await hand.hatch((x, y) => (seen(x, y) || y <= TABLE ? 0 : 0.85), {
    angle: 0.05,
    apart: 40,
    press: 0.7,
    margin: -16,
  });
  await hand.take(OIL, "Hog flat", 54, "#4c3440");
  await hand.hatch((x, y) => smooth(0.15, 0.7, cast(x, y)), { angle: 0.08, apart: 28, press: 0.6 });
  for (const [i, { flesh }] of all.entries()) {
    const of =
      (tone: (light: number) => number): Tone =>
      (x, y) => {
        const here = seen(x, y);
        return here && here[0] === i ? tone(here[1]) : 0;
      };
    const [dark = "", middle = "", light = "", high = ""] = flesh;
    const pear = all[i] as Pear;
    await hand.take(OIL, "Hog flat", 40, dark);
    await hand.hatch(
      of((l) => smooth(0.6, 0.3, l)),
      { angle: 1.2, apart: 20, press: 0.65, bend: 0.5 },
    );
    await hand.draw(side(pear, 1, -14, 0.5));
    await hand.take(OIL, "Hog filbert", 36, middle);
    await hand.hatch(
      of((l) => smooth(0.14, 0.36, l)),
      { angle: 0.95, apart: 19, press: 0.6, bend: 0.6 },
    );
    await hand.draw(side(pear, -1, -14, 0.5));
    await hand.take(OIL, "Hog filbert", 30, light);
    await hand.hatch(
      of((l) => smooth(0.52, 0.78, l)),
      { angle: 0.75, apart: 18, press: 0.55, bend: 0.6 },
    );
    await hand.take(OIL, "Sable round", 26, i === 1 ? "#9a3a2a" : "#a07038");
    await hand.hatch(
      of((l) => smooth(0.4, 0.5, l) * smooth(0.62, 0.52, l) * 0.5),
      { angle: 1.35, apart: 46, press: 0.22, bend: 0.5 },
    );
    // Cut in with what is behind it, so that its edge is found.
    await hand.take(OIL, "Hog round", 26, "#3c4a52");
    await hand.draw(side(pear, -1, 12, 0.45).filter(([, y]) => y < TABLE - 14));
    await hand.draw(side(pear, 1, 12, 0.45).filter(([x, y]) => y < TABLE - 14 && !seen(x, y)));
    await hand.take(OIL, "Hog round", 16, high);
    await hand.hatch(
      of((l) => smooth(0.93, 1, l)),
      { angle: 0.6, apart: 20, press: 0.6, bend: 0.4 },
    );
  }
  await hand.take(OIL, "Rigger", 9, "#2a1c16");
  for (const { x, y, size, lean } of all) {
    const [sx, sy] = [x + Math.sin(lean) * size * 0.49, y - Math.cos(lean) * size * 0.49];
    await hand.draw(line([sx, sy + 8, 0.9], [sx + 14 + lean * 60, sy - 46, 0.6], 14, 8));
  }
  await hand.keep("still-life-pears-oil");
}

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  chromiumSandbox: false,
});
for (const [name, study] of Object.entries({ sphere, cloth, pears, "pears-oil": pearsInOil })) {
  if (only && only !== name) continue;
  const page = await browser.newPage({ viewport: { width: 1720, height: 1080 } });
  await page.route("**/api/samples", (route) => route.fulfill({ json: { samples: [] } }));
  await study(page);
  await page.close();
}
await browser.close();
