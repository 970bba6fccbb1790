import { linesOf } from "../../engine/lines/line-set";
import { signatureOf, signatureOn } from "../../engine/lines/signature";
import { type CommandInput } from "../../engine/command/commands";
import { type Work } from "../../engine/command/work";
import { Compositor } from "../../engine/compose/compositor";
import { type Engine } from "../../engine/engine";
import { testEngine, testHeader } from "../../engine/engine.testing";
import { Refusal } from "../../engine/picture/refusal";
import { type Box } from "../../engine/tiles/layout";
import { type Filter } from "../../engine/transform/filters";
import { type Warp } from "../../engine/transform/warp";
import { copySelected, hasSelected } from "../../worker/clipping";
import { histogramOf } from "../../worker/counting";
import { eyePull, holesOf } from "../../worker/crit";
import { choiceOfLines, type LineChoice, lookAtLine, lookAtLines } from "../../worker/lines";
import { pickedColour, type Picking } from "../../worker/picking";
import { pictureState } from "../../worker/picture-state";
import { type Answer, type Layer, type TableEvent } from "../../worker/protocol";
import { type RegionChoice, RegionLooker } from "../../worker/region-look";
import { snapshotOf } from "../../worker/snapshot";
import { Transforming } from "../../worker/transforming";
import { type EngineLink } from "../engine-link";
import { useNotices } from "../notices/notices";
import { Session } from "./session";
import { useTable } from "./table-store";

/** What the page asked to be shown and not to be done. */
type Shown = { layers: readonly Layer[] | null; mask: string | null; opacity: number | null };

export type TestTable = { engine: Engine; work: Work; shown: Shown; tried: CommandInput | null };

let table: TestTable | null = null;

/** The table that was opened last. */
export const theTable = (): TestTable => {
  if (!table) throw new Error("no table is open: call openTable first");
  return table;
};

function answer<T>(act: () => T): Answer<T> {
  try {
    return { ok: true, value: act() };
  } catch (error) {
    if (error instanceof Refusal) return { ok: false, why: error.message };
    throw error;
  }
}

/**
 * In place of an engine behind messages: one on this thread, with a picture of 256 × 192 px and
 * one layer, “a”. What only a screen could show is noted in `shown`.
 */
export function startEngineLink(listen: (event: TableEvent) => void): Promise<EngineLink> {
  const engine = testEngine();
  const work = engine.open(testHeader(), {
    damaged: ({ layer, keys }) => compositor.forget(layer, compositor.reach(layer, keys)),
  });
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  const shown: Shown = { layers: null, mask: null, opacity: null };
  const opened: TestTable = { engine, work, shown, tried: null };
  table = opened;
  const state = () => pictureState({ id: "test", title: "Test", work, readOnly: false });
  const changed = <T>(act: () => T): Promise<Answer<T>> => {
    const said = answer(act);
    if (said.ok) listen({ type: "state", state: state() });
    return Promise.resolve(said);
  };
  const looker = new RegionLooker(engine, work);
  let transforming: Transforming | null = null;
  const api = {
    open: () => Promise.resolve({ ok: true, value: { state: state(), notes: [] } }),
    apply: (command: CommandInput) =>
      changed(() => {
        work.apply(command);
        return null;
      }),
    undo: () => changed(() => work.undo()),
    redo: () => changed(() => work.redo()),
    lookAtLine: (layer: string, x: number, y: number, within: number) =>
      Promise.resolve(
        answer(() => lookAtLine({ engine, picture: work.picture, layer }, x, y, within)),
      ),
    signatureOf: (layer: string) =>
      Promise.resolve(answer(() => signatureOf(linesOf(engine.store, work.picture, layer).lines))),
    signatureOn: (kept: string, colour: string) =>
      Promise.resolve(answer(() => signatureOn(kept, work.picture, colour))),
    lookAtLines: (layer: string, ids: readonly number[]) =>
      Promise.resolve(answer(() => lookAtLines({ engine, picture: work.picture, layer }, ids))),
    chooseLines: (layer: string, choice: LineChoice) =>
      Promise.resolve(
        answer(() => choiceOfLines({ engine, picture: work.picture, layer }, choice)),
      ),
    setView: () => undefined,
    setLooking: () => undefined,
    setWorking: () => undefined,
    previewLayers: (layers: Shown["layers"]) => void (shown.layers = layers),
    previewOpacity: (_layers: string[], opacity: number) => void (shown.opacity = opacity),
    showMask: (mask: string | null) => void (shown.mask = mask),
    tryOut: (command: CommandInput | null) => {
      opened.tried = command;
      return Promise.resolve(
        answer(() => {
          if (command) work.tryOut(command);
          else work.stopTrying();
          return null;
        }),
      );
    },
    colourAt: (x: number, y: number, { radius, layer }: Picking) =>
      Promise.resolve(
        pickedColour(engine.store.heap, work.picture, [x, y], radius, (keys, take) => {
          if (layer === null) return compositor.compose(keys, take);
          for (const key of keys) {
            const tile = work.picture.plane(layer).get(key);
            if (tile) take(key, engine.store.address(tile));
          }
        }),
      ),
    lookAtRegion: (x: number, y: number, choice: RegionChoice, leaks: boolean) =>
      Promise.resolve(answer(() => looker.at(x, y, choice, leaks))),
    lookAway: () => looker.free(),
    histogram: (layer: string | null) =>
      Promise.resolve(answer(() => histogramOf(engine, work.picture, compositor, layer))),
    eyePull: () => Promise.resolve(answer(() => eyePull(engine, work.picture, compositor))),
    holes: () => Promise.resolve(answer(() => holesOf(engine, work.picture))),
    historySteps: () => Promise.resolve(work.history.steps),
    seenBefore: (steps: number) =>
      Promise.resolve(answer(() => work.lookBack(steps, () => snapshotOf(engine, work.picture)))),
    beginTransform: (layers: string[], box: Box | null) => {
      transforming?.end(true);
      const repaint = (layer: string, keys: number[]): void => compositor.forget(layer, keys);
      const held = new Transforming(engine, work, compositor, repaint, layers, box);
      transforming = held;
      return changed(() => held.picture());
    },
    takeUp: () => changed(() => transforming?.takeUp() ?? null),
    putDown: (warp: Warp | null, filter: Filter) =>
      changed(() => transforming?.putDown(warp, filter) ?? null),
    endTransform: (keep: boolean) => {
      const said = changed(() => transforming?.end(keep) ?? null);
      transforming = null;
      return said;
    },
    hasSelected: (layer: string) => Promise.resolve(hasSelected(engine, work.picture, layer)),
    copySelected: (layers: readonly string[] | null) =>
      Promise.resolve(answer(() => copySelected(engine, work.picture, layers))),
  };
  return Promise.resolve({
    api: api as unknown as EngineLink["api"],
    pen: null as unknown as EngineLink["pen"],
    wake: () => undefined,
    leave: () => undefined,
    end: () => undefined,
  });
}

const first = useTable.getState();

/** For tests of hands: a screen on which a px of CSS is one of the device. */
export function onAScreen(): void {
  beforeAll(() => {
    Object.assign(globalThis, { window: { devicePixelRatio: 1 } });
  });
  afterAll(() => {
    Reflect.deleteProperty(globalThis, "window");
  });
}

/** A table with the test's picture, everything in hand as at first. */
export async function openTable(): Promise<Session> {
  useTable.setState(first, true);
  useNotices.setState({ notices: [] });
  return Session.open("test");
}

/** What was told last. */
export const toldLast = (): string => useNotices.getState().notices.at(-1)?.text ?? "";

/** The layers from the bottom, those in groups as `group/layer`. */
export function stack(): string[] {
  const { layers } = theTable().work.picture.structure;
  const nameOf = (id: string | null): string => {
    const layer = layers.find((one) => one.id === id);
    return layer ? (layer.group ? `${nameOf(layer.group)}/` : "") + layer.name : "";
  };
  return layers.map(({ id }) => nameOf(id));
}

/** Id of a layer by its name. */
export function idOf(name: string): string {
  const layer = theTable().work.picture.structure.layers.find((one) => one.name === name);
  if (!layer) throw new Error(`there is no layer ${name}, only ${stack().join(", ")}`);
  return layer.id;
}

export const layerOf = (name: string): Layer => theTable().work.picture.layer(idOf(name));
