import { type BrowserContext, chromium, expect, type Page } from "@playwright/test";
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Pen, swell } from "./pen";
import { exported, middle, newPicture, openPortfolio, settled, tableReady } from "./table";

/** How a table may end: all are ordinary, none may lose what was shown as kept. */
const ends = ["reload", "close the tab", "kill the browser"] as const;
/** What is waited for before it ends. */
const waits = ["nothing", "kept", "a checkpoint"] as const;

type Choose = <T>(from: readonly T[]) => T;

/** Choices that come out the same each time for a seed (mulberry32). */
function choosing(seed: number): { choose: Choose; chance: () => number } {
  let state = seed;
  const chance = (): number => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  return { chance, choose: (from) => from[Math.floor(chance() * from.length)] as never };
}

/** Where the picture's log stands in store, and where its checkpoint does; null where the log has turned back beyond it. */
const stored = (
  page: Page,
  picture = pictureOf(page),
): Promise<{ place: number; checkpoint: number | null }> =>
  page.evaluate(
    (id) =>
      new Promise((resolve, reject) => {
        const opening = indexedDB.open("pampas");
        opening.onerror = () => reject(opening.error as Error);
        opening.onsuccess = () => {
          const asked = opening.result.transaction("heads").objectStore("heads").get(id);
          asked.onsuccess = () => {
            type Checkpoint = { place: number; back?: number };
            const head = asked.result as { place: number; checkpoint: Checkpoint | null };
            const isOfLog = head.checkpoint && head.checkpoint.back === undefined;
            opening.result.close();
            resolve({
              place: head.place,
              checkpoint: isOfLog ? (head.checkpoint?.place ?? null) : null,
            });
          };
        };
      }),
    picture,
  );

/** The picture that a table is open on. */
export const pictureOf = (page: Page): string =>
  new URL(page.url()).searchParams.get("picture") ?? "";

/** Waits until all that was done is in the picture's tiles in store. */
export const checkpointed = (page: Page, picture = pictureOf(page)): Promise<void> =>
  expect
    .poll(async () => {
      const { place, checkpoint } = await stored(page, picture);
      return checkpoint === place;
    })
    .toBe(true);

/** A browser that can be killed and started again on the same profile. */
class Browser {
  #context: BrowserContext | null = null;
  readonly folder = mkdtempSync(join(tmpdir(), "pampas-profile-"));

  constructor(
    readonly address: string,
    readonly args: string[],
  ) {}

  async page(): Promise<Page> {
    this.#context ??= await chromium.launchPersistentContext(this.folder, {
      executablePath: "/usr/bin/chromium",
      chromiumSandbox: false,
      args: this.args,
      baseURL: this.address,
      viewport: { width: 1280, height: 800 },
    });
    return this.#context.newPage();
  }

  async kill(): Promise<void> {
    const context = this.#context;
    this.#context = null;
    spawnSync("pkill", ["-9", "-f", this.folder]);
    await context?.close().catch(() => undefined);
    rmSync(join(this.folder, "SingletonLock"), { force: true });
  }

  async end(): Promise<void> {
    await this.#context?.close();
    rmSync(this.folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

export type Abuse = { address: string; args: string[]; rounds: number; seed: number };

/**
 * Draws, undoes, and ends the table in every ordinary way, again and again. After each end what
 * was shown as kept must be there; at the last the picture must be that of its own log.
 */
export async function abuse({ address, args, rounds, seed }: Abuse): Promise<void> {
  const { chance, choose } = choosing(seed);
  const browser = new Browser(address, args);
  try {
    let page = await browser.page();
    await openPortfolio(page);
    await newPicture(page, { width: 600, height: 420, title: "Kept sheet" });
    const url = page.url();
    // The first stroke brings its brush along, a step of its own; the others are one step each.
    await strokeSomewhere(page, await Pen.on(page), chance);
    await settled(page);
    let { place } = await stored(page);
    const first = place;
    for (let round = 0; round < rounds; round++) {
      const end = ends[round % ends.length] as (typeof ends)[number];
      let known = place;
      let drawn = place;
      const pen = await Pen.on(page);
      for (let strokes = 1 + Math.floor(chance() * 3); strokes > 0; strokes--) {
        // What an earlier session did can be undone as well.
        const isUndo = drawn > first && chance() < 0.3;
        if (isUndo) await page.getByRole("button", { name: /^Undo/ }).click();
        else await strokeSomewhere(page, pen, chance);
        drawn += isUndo ? -1 : 1;
        const wait = choose(waits);
        if (wait === "nothing" && !isUndo) continue;
        await settled(page);
        known = drawn;
        if (wait === "a checkpoint")
          await expect.poll(async () => (await stored(page)).checkpoint).toBe(drawn);
      }
      page = await ended(page, browser, end);
      await page.goto(url);
      await tableReady(page);
      ({ place } = await stored(page));
      const told = `round ${round} of seed ${seed}, ended by: ${end}`;
      expect(place, told).toBeGreaterThanOrEqual(known);
      expect(place, told).toBeLessThanOrEqual(Math.max(known, drawn));
    }
    await isThatOfItsLog(page);
  } finally {
    await browser.end();
  }
}

const washes = ["Wash round", "Mop", "Charging brush", "Clear water", "Thirsty brush", "Salt"];

/**
 * The same while washes run: strokes of water are laid into each other and the table is ended at any moment. What
 * was shown as kept must be there, and the picture that of its own log.
 */
export async function abuseWet({ address, args, rounds, seed }: Abuse): Promise<void> {
  const { chance, choose } = choosing(seed);
  const browser = new Browser(address, args);
  const open = async (page: Page): Promise<void> => {
    await page.getByRole("tab", { name: "Paint", exact: true }).click();
    await page.getByRole("tab", { name: "Water", exact: true }).click();
  };
  try {
    let page = await browser.page();
    await openPortfolio(page);
    await newPicture(page, { width: 600, height: 420, title: "Wet sheet" });
    const url = page.url();
    for (let round = 0; round < rounds; round++) {
      const end = choose(ends);
      const pen = await Pen.on(page);
      await open(page);
      let known = (await stored(page)).place;
      for (let strokes = 1 + Math.floor(chance() * 3); strokes > 0; strokes--) {
        await page.getByRole("radio", { name: choose(washes), exact: true }).click();
        await strokeSomewhere(page, pen, chance);
        if (chance() < 0.5) continue;
        await settled(page);
        known = (await stored(page)).place;
      }
      page = await ended(page, browser, end);
      await page.goto(url);
      await tableReady(page);
      const told = `round ${round} of seed ${seed}, ended by: ${end}`;
      expect((await stored(page)).place, told).toBeGreaterThanOrEqual(known);
      if (round % 10 === 9) await isThatOfItsWetLog(page);
    }
    await isThatOfItsWetLog(page);
  } finally {
    await browser.end();
  }
}

/** The same of a picture that is wet: its time stands meanwhile, as the log is taken after the picture. */
async function isThatOfItsWetLog(page: Page): Promise<void> {
  const dries = page.getByLabel("Washes dry");
  await dries.selectOption("not: time stands");
  await settled(page);
  await isThatOfItsLog(page);
  await dries.selectOption("as in a room");
  await settled(page);
}

async function strokeSomewhere(page: Page, pen: Pen, chance: () => number): Promise<void> {
  const { x, y } = await middle(page);
  const across = (): number => (chance() - 0.5) * 460;
  const down = (): number => (chance() - 0.5) * 280;
  await pen.stroke(swell([x + across(), y + down()], [x + across(), y + down()], 12));
}

async function ended(page: Page, browser: Browser, end: (typeof ends)[number]): Promise<Page> {
  if (end === "reload") {
    await page.reload();
    return page;
  }
  if (end === "close the tab") await page.close();
  else await browser.kill();
  return browser.page();
}

/** The picture as the table shows it, against its exported log painted in Node. */
export async function isThatOfItsLog(page: Page): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "pampas-"));
  const shown = await exported(page, "PNG");
  const log = join(folder, "log.jsonl");
  writeFileSync(log, await exported(page, "Work log"));
  const out = join(folder, "log.png");
  execFileSync(process.execPath, ["--import", "tsx", "src/cli/pampas.ts", "render", log, out]);
  expect(shown.equals(readFileSync(out))).toBe(true);
}
