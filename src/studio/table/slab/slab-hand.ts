import { stirred } from "../../../engine/pigment/pigment";
import { SLAB, SLAB_HEIGHT, SLAB_WIDTH } from "../../../engine/slab/slab";
import { isForWet } from "../../../engine/stroke/brush";
import { fitView, type Size, type View, zoomedAt } from "../../../worker/view";
import { brushById } from "../../brushes/brush-box";
import { PenSamples, type Point } from "../pen/pen-samples";
import { type Session } from "../session";
import { amountsNow, modeNow, useTable } from "../table-store";

/** How long after a pen was last heard of touches are taken for the palm, ms. */
const PALM = 500;
/** The slab is seen whole, or nearer; so many times at most. */
const NEAREST = 12;

type Doing = "mix" | "pick" | "pan" | null;

/**
 * The hand on the slab: brushes for wet paint mix, all others take the colour that they press on. The wheel
 * brings it nearer, the hand moves it.
 */
export class SlabHand {
  #samples: PenSamples;
  #listeners = new AbortController();
  #doing: Doing = null;
  #pointer = -1;
  #last: Point = { x: 0, y: 0 };
  #penAt = -Infinity;
  #screen: Size = { width: 1, height: 1 };
  #view: View = fitView({ width: SLAB_WIDTH, height: SLAB_HEIGHT }, this.#screen, 0);

  constructor(
    readonly session: Session,
    readonly element: HTMLElement,
  ) {
    this.#samples = new PenSamples(element, () => ({ view: this.#view, screen: this.#screen }));
    const { signal } = this.#listeners;
    const on = <K extends keyof HTMLElementEventMap>(
      type: K,
      act: (event: HTMLElementEventMap[K]) => void,
    ): void => element.addEventListener(type, act, { signal, passive: false });
    on("pointerdown", (event) => this.#down(event));
    on("pointermove", (event) => this.#move(event));
    on("pointerup", (event) => this.#up(event));
    on("pointercancel", (event) => this.#up(event));
    on("wheel", (event) => this.#wheel(event));
    on("contextmenu", (event) => event.preventDefault());
  }

  stop(): void {
    this.#listeners.abort();
  }

  /** The slab is shown in so many device px: all of it is seen. */
  resize(width: number, height: number): void {
    this.#screen = { width, height };
    void this.session.link.api.resizeSlab(width, height);
    this.#look(this.#whole);
  }

  get #whole(): View {
    return fitView({ width: SLAB_WIDTH, height: SLAB_HEIGHT }, this.#screen, 0);
  }

  #look(view: View): void {
    this.#view = view;
    this.element.dataset.zoom = String(view.zoom);
    void this.session.link.api.setSlabView(view);
  }

  #down(event: PointerEvent): void {
    event.preventDefault();
    event.stopPropagation();
    if (event.pointerType === "pen") this.#penAt = event.timeStamp;
    const isPalm = event.pointerType === "touch" && event.timeStamp - this.#penAt < PALM;
    if (this.#doing || isPalm) return;
    this.#pointer = event.pointerId;
    // A pointer that is gone, or was made by a test, cannot be captured; mixing goes on without.
    if (event.isTrusted) this.element.setPointerCapture(event.pointerId);
    this.#last = this.#samples.place(event);
    const { tool, brush } = useTable.getState();
    const own = brushById(brush);
    if (event.button === 1 || tool === "hand") this.#doing = "pan";
    else if (tool === "pick" || event.altKey || !own || !isForWet(own)) {
      this.#doing = "pick";
      void this.#pick(event);
    } else if (event.button === 0 || event.button === 5) this.#mix(event);
  }

  #mix(event: PointerEvent): void {
    const state = useTable.getState();
    const { size, strength, lays, thinner, water } = amountsNow(state);
    const { brush, colour, second, keepsPaint } = state;
    this.#doing = "mix";
    this.#samples.begin(event);
    this.session.link.pen.begin();
    const beginning = {
      layer: SLAB,
      on: "colour" as const,
      ...{ brush, size, strength, colour, second, keepsPaint, lays, thinner, water },
      mode: event.button === 5 ? ("lift" as const) : modeNow(state),
      seed: Math.floor(Math.random() * 0xffffffff),
      steady: 0,
      scale: 1 / this.#view.zoom,
      takes: "layer" as const,
    };
    void this.session.beginStroke(beginning).then((taken) => {
      if (!taken) this.#doing = null;
    });
    this.#draw([event]);
  }

  #draw(events: readonly PointerEvent[]): void {
    const { pen, wake } = this.session.link;
    for (const event of events) pen.write(this.#samples.of(event));
    wake();
  }

  #move(event: PointerEvent): void {
    event.stopPropagation();
    if (event.pointerType === "pen") this.#penAt = event.timeStamp;
    if (event.pointerId !== this.#pointer) return;
    const place = this.#samples.place(event);
    if (this.#doing === "mix") {
      const events = event.getCoalescedEvents?.() ?? [];
      this.#draw(events.length > 0 ? events : [event]);
    } else if (this.#doing === "pick") void this.#pick(event);
    else if (this.#doing === "pan")
      this.#look({
        ...this.#view,
        x: this.#view.x - (place.x - this.#last.x) / this.#view.zoom,
        y: this.#view.y - (place.y - this.#last.y) / this.#view.zoom,
      });
    this.#last = place;
  }

  #up(event: PointerEvent): void {
    if (event.pointerId !== this.#pointer) return;
    const wasMixing = this.#doing === "mix";
    this.#doing = null;
    this.#pointer = -1;
    if (!wasMixing) return;
    if (event.type === "pointerup") this.#draw([event]);
    void this.session.endStroke();
  }

  async #pick(event: PointerEvent): Promise<void> {
    const { x, y } = this.#samples.onSurface(this.#samples.place(event));
    const { pickRadius, pickShare, colour, chooseColour } = useTable.getState();
    const hex = await this.session.link.api.slabColourAt(x, y, Math.max(1, pickRadius));
    if (hex) chooseColour(pickShare < 1 ? stirred(colour, hex, pickShare) : hex);
  }

  #wheel(event: WheelEvent): void {
    event.preventDefault();
    event.stopPropagation();
    const { x, y } = this.#samples.place(event);
    const nearer = zoomedAt(this.#view, this.#screen, Math.exp(-event.deltaY / 300), x, y);
    const whole = this.#whole;
    if (nearer.zoom <= whole.zoom) this.#look(whole);
    else if (nearer.zoom <= whole.zoom * NEAREST) this.#look(nearer);
  }
}
