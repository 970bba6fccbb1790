import { Follower } from "../../engine/guides/follow";
import { stirred } from "../../engine/pigment/pigment";
import { type Studies } from "../../engine/studies/studies";
import { modeOf, poursAtRest } from "../../engine/stroke/brush";
import { type Sample } from "../../engine/stroke/sample";
import { toPicture, turnedAt, type View, viewMatrix, zoomedAt } from "../../worker/view";
import { brushById } from "../brushes/brush-box";
import { tell } from "../notices/notices";
import { type Session } from "./session";
import { type BarrelAct } from "../../storage/pen-settings";
import { type StrokeBeginning } from "../../worker/protocol";
import { SELECTION } from "../../engine/picture/picture";
import { RegionHand } from "./region/region-hand";
import { LineHand, pressureOf, type Touch } from "./lines/line-hand";
import { PanelHand } from "./panels/panel-hand";
import { PieceHand } from "./strew/piece-hand";
import { strewBeginning } from "./strew/strew-store";
import { PenSamples, type Point } from "./pen/pen-samples";
import { Taps } from "./pen/taps";
import { cardAt, isUnderCard } from "./stencils/card";
import { stayAwake } from "./awake";
import { beginTransform } from "./transform/transform-store";
import { amountsNow, modeNow, positionOf, sizeAt, useTable } from "./table-store";

/** What the pointer is doing. */
type Doing =
  | "stroke"
  | "line"
  | "pan"
  | "turn"
  | "zoom"
  | "amounts"
  | "pick"
  | "box"
  | "region"
  | "correct"
  | null;

/** Keys that lend the pointer another use while they are held. */
export type Held = "pan" | "turn" | "zoom" | "amounts" | "pick" | null;

const STRAIGHT_POINTS = 24;
/** How long after a pen was last heard of touches are taken for the palm, ms. */
const PALM = 500;
/** How often it is said of a pen at rest that it is still there, while a brush pours, ms. */
const POURS_EVERY = 30;
/** How much longer than a key is held a pen must rest where it was set down to pick a colour, ms, and how far it may stray, device px. */
const REST_LONGER = 170;
const REST_STRAY = 4;
/** A contact wider than this is no finger's, CSS px. */
const WIDEST_FINGER = 64;
/** Two fingers that come together to this share of their distance within this, ms, fit the sheet. */
const QUICK_PINCH = { share: 0.6, within: 320 };
/** Buttons on a pen's barrel, as the browser counts them: the one nearer to the tip, and the other. */
const LOWER = 2;
const UPPER = 1;
/** A finger has begun something once it has moved so far, device px, or stayed so long, ms: before, others may join it. */
const FINGER_STRAY = 5;
const FINGER_WAITS = 110;
/** How near to upright a turn snaps, radians. */
const TURN_SNAP = 0.035;

/**
 * The hand on the picture: turns what the browser says of pens, mice and fingers into
 * strokes and movements of the view. One finger draws until a pen has been seen, then it
 * moves the sheet; two fingers always do.
 */
export class Hand {
  held: Held = null;
  shift = false;
  /** Whether anything was done while a key lent the pointer its use. */
  usedWhileHeld = false;
  #doing: Doing = null;
  #pointer = -1;
  #last: Point = { x: 0, y: 0 };
  #lastEnd: Point | null = null;
  #lineFrom: Point | null = null;
  #penSeen = false;
  /** When a pen was last heard of, and whether one draws now. */
  #penAt = -Infinity;
  #penDown = false;
  /** The pointer in use is a finger. */
  #byTouch = false;
  #touches = new Map<number, Point>();
  #taps = new Taps();
  /** A finger that has come down and has not begun anything yet. */
  #waiting: { event: PointerEvent; place: Point; timer: ReturnType<typeof setTimeout> } | null =
    null;
  #hasFocus = false;
  /** What a pen's button makes of a stroke, and whether it is to begin when the pen touches the sheet. */
  #lent: "lift" | "blend" | null = null;
  #awaitsTouch = false;
  /** How two fingers came down: when, and how far apart. */
  #pinch = { at: 0, apart: 0, share: 1 };
  #turned = 0;
  #boxFrom: Point = { x: 0, y: 0 };
  #hovered: Point | null = null;
  #follower: Follower | null = null;
  /** Where a stroke began, and the timer that turns a rest there into picking. */
  #restAt: Point = { x: 0, y: 0 };
  #resting: ReturnType<typeof setTimeout> | undefined;
  /** What was last drawn with, when, and the timer that repeats it where a brush pours though the pen rests. */
  #newest: { sample: Sample; at: number } | null = null;
  #pouring: ReturnType<typeof setInterval> | undefined;
  /** The colour that was in hand when picking began. */
  #pickedInto = "";
  #raw = "onpointerrawupdate" in window;
  #listeners = new AbortController();
  #regions: RegionHand;
  #lines: LineHand;
  #pieces: PieceHand;
  #panels: PanelHand;
  /** Which of them is at work. */
  #gesture: LineHand | PieceHand | PanelHand | null = null;
  #samples: PenSamples;

  constructor(
    readonly session: Session,
    readonly element: HTMLElement,
    readonly moved: (event: PointerEvent | null) => void,
  ) {
    this.#regions = new RegionHand(session);
    this.#lines = new LineHand(session);
    this.#pieces = new PieceHand(session);
    this.#panels = new PanelHand(session);
    this.#samples = new PenSamples(element, () => ({
      view: useTable.getState().view,
      screen: session.screen,
    }));
    const { signal } = this.#listeners;
    const on = <K extends keyof HTMLElementEventMap>(
      type: K,
      act: (event: HTMLElementEventMap[K]) => void,
    ): void => element.addEventListener(type, act, { signal, passive: false });
    on("pointerdown", (event) => this.#down(event));
    on("pointermove", (event) => this.#move(event, false));
    // The rawest events come before the frame does; they are what strokes are made of.
    element.addEventListener(
      "pointerrawupdate",
      (event) => this.#move(event as PointerEvent, true),
      { signal },
    );
    on("pointerup", (event) => this.#up(event));
    on("pointercancel", (event) => this.#cancel(event));
    on("pointerleave", () => {
      this.moved(null);
      this.#regions.hover(null);
      this.#lines.hover(null);
      this.#panels.hover(null);
    });
    on("blur", () => {
      this.#hasFocus = false;
    });
    on("wheel", (event) => this.#wheel(event));
    on("contextmenu", (event) => event.preventDefault());
  }

  stop(): void {
    clearTimeout(this.#resting);
    this.#dropWaiting();
    this.#listeners.abort();
    this.#lines.stop();
  }

  /** Whether the picture has the focus because it was touched, not because Tab came to it. */
  get hasFocus(): boolean {
    return this.#hasFocus && document.activeElement === this.element;
  }

  get isDrawing(): boolean {
    return this.#doing === "stroke" || this.#doing === "line";
  }

  #place(event: { clientX: number; clientY: number }): Point {
    return this.#samples.place(event);
  }

  /** Hands a way on to lines or pieces, with what the pen reported between two frames. */
  #correct(event: PointerEvent): void {
    const between = event.getCoalescedEvents?.() ?? [];
    for (const one of between.length > 0 ? between : [event])
      this.#gesture?.move(this.#touch(one, this.#place(one)));
  }

  /** What lines are told of a pointer. */
  #touch(event: PointerEvent, place: Point): Touch {
    const { x, y } = this.#onPicture(place);
    return {
      place: [x, y],
      pressure: pressureOf(event),
      time: event.timeStamp,
      shift: event.shiftKey,
    };
  }

  #onPicture(place: Point): Point {
    return this.#samples.onSurface(place);
  }

  #down(event: PointerEvent): void {
    if ((event.target as Element).closest(".options, .favourites, .handle, .pin")) return;
    event.preventDefault();
    this.element.focus({ preventScroll: true });
    this.#hasFocus = true;
    if (event.pointerType === "pen") this.#penComes(event);
    const place = this.#place(event);
    if (event.pointerType === "touch" && this.#touchDown(event, place)) return;
    if (this.#doing) return;
    this.#pointer = event.pointerId;
    this.#byTouch = event.pointerType === "touch";
    // A pointer made by a test or a device that is gone cannot be captured; drawing goes on without.
    if (event.isTrusted) this.element.setPointerCapture(event.pointerId);
    this.#last = place;
    if (!this.#byTouch) return this.#begin(event, place);
    const timer = setTimeout(() => this.#beginWaiting(), FINGER_WAITS);
    this.#waiting = { event, place, timer };
  }

  /** A finger that came down begins what it came for. */
  #beginWaiting(): void {
    const waiting = this.#waiting;
    this.#dropWaiting();
    if (waiting) this.#begin(waiting.event, waiting.place);
  }

  #dropWaiting(): void {
    clearTimeout(this.#waiting?.timer);
    this.#waiting = null;
  }

  /** A pen touches the sheet: what fingers or a palm were doing is over. */
  #penComes(event: PointerEvent): void {
    this.#penSeen = true;
    this.#penDown = true;
    this.#penAt = event.timeStamp;
    this.#touches.clear();
    this.#taps.spoil();
    this.#dropWaiting();
    if (!this.#doing || !this.#byTouch) return;
    if (this.isDrawing) this.#giveUp();
    if (this.#doing === "correct") this.#gesture?.giveUp();
    this.#doing = null;
    this.#pointer = -1;
  }

  /** What the button that is held on a pen's barrel does; null where none is. */
  #barrel({ pointerType, button, buttons }: PointerEvent): BarrelAct | null {
    if (pointerType !== "pen") return null;
    const { lower, upper } = useTable.getState().pen;
    if (button === LOWER || (buttons & 2) !== 0) return lower;
    return button === UPPER || (buttons & 4) !== 0 ? upper : null;
  }

  /** Does what a pen's button is for. @returns whether that is all that the press is for */
  #pressBarrel(act: BarrelAct, place: Point): boolean {
    if (act === "pan") this.#doing = "pan";
    else if (act === "pick") this.#startPicking(place);
    else if (act === "undo") void this.session.undo();
    return act !== "lift" && act !== "blend";
  }

  #begin(event: PointerEvent, place: Point): void {
    const { tool } = useTable.getState();
    this.usedWhileHeld = true;
    const barrel = this.held ? null : this.#barrel(event);
    this.#lent = null;
    if (barrel && this.#pressBarrel(barrel, place)) return;
    if (barrel && tool === "brush") {
      this.#lent = barrel === "lift" ? "lift" : "blend";
      // Some pens tell of the button before they touch the sheet: the stroke waits for that.
      this.#awaitsTouch = event.pressure === 0;
      if (!this.#awaitsTouch) this.#beginStroke(event, place);
      return;
    }
    if (event.button === 1 || this.held === "pan" || (tool === "hand" && !this.held))
      this.#doing = "pan";
    else if (this.held === "turn" || this.held === "zoom" || this.held === "amounts")
      this.#doing = this.held;
    else if (this.held === "pick" || tool === "pick" || event.altKey) {
      this.#startPicking(place);
    } else if (this.#regions.isOurs) {
      const { x, y } = this.#onPicture(place);
      this.#doing = this.#regions.begin([x, y], event.timeStamp) ? "region" : null;
    } else if ((this.#gesture = this.#gestureHand())) {
      this.#doing = this.#gesture.begin(this.#touch(event, place)) ? "correct" : null;
    } else if (tool === "transform") {
      // Its own handles are pressed, not the sheet.
      this.#doing = null;
    } else if (tool === "tip box" || tool === "transform box") {
      this.#doing = "box";
      this.#boxFrom = this.#onPicture(place);
    } else if (event.button === 0 || event.button === 5) this.#beginStroke(event, place);
    this.#turned = 0;
  }

  /** The hand whose gestures the tool in hand means; null where it means strokes. */
  #gestureHand(): LineHand | PieceHand | PanelHand | null {
    return [this.#lines, this.#pieces, this.#panels].find(({ isOurs }) => isOurs) ?? null;
  }

  #beginStroke(event: PointerEvent, place: Point): void {
    const state = useTable.getState();
    const layer = state.tool === "select" ? SELECTION : state.selected[0];
    if (!layer) {
      tell("There is no layer to draw on. Add one in the list at the left.");
      return;
    }
    stayAwake();
    const { size, strength, lays, thinner, water } = amountsNow(state);
    const { keepsPaint } = state;
    this.#samples.begin(event);
    this.#doing = this.shift ? "line" : "stroke";
    this.#lineFrom = this.shift ? (this.#lastEnd ?? this.#onPicture(place)) : null;
    const eraser = event.button === 5;
    const { otherEnd } = state.pen;
    const guides = state.picture?.guides ?? [];
    this.#follower =
      state.follow && guides.length > 0 && this.#doing === "stroke"
        ? new Follower(guides, 1 / state.view.zoom)
        : null;
    this.session.link.pen.begin();
    const beginning: StrokeBeginning = {
      layer,
      on: state.tool === "select" ? "colour" : state.paintOn,
      brush: state.brush,
      mode: this.#lent ?? (eraser ? otherEnd : modeNow(state)),
      size,
      strength,
      colour: state.colour,
      second: state.second,
      seed: Math.floor(Math.random() * 0xffffffff),
      steady: this.#doing === "line" ? 0 : state.steady,
      scale: 1 / state.view.zoom,
      takes: state.takes,
      lays,
      keepsPaint,
      thinner,
      water,
      ...(state.card !== null && isUnderCard(state.picture?.layers, layer)
        ? { card: cardAt(state.card, place, (at) => this.#onPicture(at)) }
        : {}),
      ...(state.holdsInFrame ? frameAt(state.picture?.studies, this.#onPicture(place)) : {}),
      ...(state.tool === "strew" ? strewBeginning(eraser) : {}),
    };
    void this.session.beginStroke(beginning).then((taken) => {
      if (!taken) this.#doing = null;
    });
    this.#newest = null;
    this.#draw([event]);
    this.#pourAtRest(beginning);
    this.#restAt = place;
    if (state.restPicks && this.#doing === "stroke")
      this.#resting = setTimeout(() => this.#rested(), state.pen.hold + REST_LONGER);
  }

  /** A pen that is held still says nothing: while a brush pours it is said for it that it is still there. */
  #pourAtRest({ brush: id, mode }: StrokeBeginning): void {
    clearInterval(this.#pouring);
    const brush = brushById(id);
    if (this.#doing !== "stroke" || !brush || !poursAtRest(brush, modeOf(brush, mode))) return;
    this.#pouring = setInterval(() => this.#pourOn(), POURS_EVERY);
  }

  #pourOn(): void {
    const { isDrawing } = this;
    if (!isDrawing || this.#doing !== "stroke") return clearInterval(this.#pouring);
    const rested = performance.now() - (this.#newest?.at ?? Infinity);
    if (!this.#newest || rested < POURS_EVERY) return;
    const [t, ...rest] = this.#newest.sample;
    this.#write([t + rested, ...rest]);
    this.session.link.wake();
  }

  /** The pen has stayed where it was set down: what it drew was not meant, it picks the colour. */
  #rested(): void {
    if (this.#doing !== "stroke") return;
    this.#giveUp();
    this.#startPicking(this.#restAt);
  }

  #move(event: PointerEvent, raw: boolean): void {
    if (event.pointerType === "pen") this.#penAt = event.timeStamp;
    if (!raw) {
      this.moved(event);
      const box = this.element.getBoundingClientRect();
      this.#hovered = { x: event.clientX - box.left, y: event.clientY - box.top };
      if (!this.#doing) this.#hover(event);
    }
    if (
      event.pointerType === "touch" &&
      this.#touches.has(event.pointerId) &&
      !raw &&
      this.#touchMove(event)
    )
      return;
    if (this.#waiting?.event.pointerId === event.pointerId) {
      const { x, y } = this.#place(event);
      const { place: from } = this.#waiting;
      if (Math.hypot(x - from.x, y - from.y) > FINGER_STRAY) this.#beginWaiting();
    }
    if (event.pointerId === this.#pointer && this.#awaitsTouch && event.pressure > 0) {
      this.#awaitsTouch = false;
      this.#beginStroke(event, this.#place(event));
    }
    if (event.pointerId !== this.#pointer || !this.#doing) return;
    const isMark = this.isDrawing;
    if (isMark !== raw && (this.#raw || raw)) return;
    const place = this.#place(event);
    const { x, y } = this.#restAt;
    if (isMark && Math.hypot(place.x - x, place.y - y) > REST_STRAY) clearTimeout(this.#resting);
    if (isMark) this.#draw(event.getCoalescedEvents?.() ?? [], event);
    else this.#drag(place, event);
    this.#last = place;
  }

  #hover(event: PointerEvent): void {
    // What was said of a region stays while the hand goes to the options.
    if ((event.target as Element).closest(".options, .handle, .pin")) return;
    const { x, y } = this.#onPicture(this.#place(event));
    this.#regions.hover(this.held ? null : [x, y]);
    this.#lines.hover(this.held ? null : [x, y]);
    this.#panels.hover(this.held ? null : [x, y]);
  }

  #drag(place: Point, event: PointerEvent): void {
    const { view } = useTable.getState();
    const dx = place.x - this.#last.x;
    const dy = place.y - this.#last.y;
    if (this.#doing === "pan") this.session.setView(panned(view, dx, dy));
    else if (this.#doing === "turn") this.#turn(place, event.shiftKey);
    else if (this.#doing === "zoom") {
      const { width, height } = this.session.screen;
      this.session.setView(
        zoomedAt(view, this.session.screen, Math.exp((dx - dy) / 200), width / 2, height / 2),
      );
    } else if (this.#doing === "box") this.#box(place);
    else if (this.#doing === "region") {
      const { x, y } = this.#onPicture(place);
      this.#regions.move([x, y], event.shiftKey);
    } else if (this.#doing === "correct") this.#correct(event);
    else if (this.#doing === "amounts") changeAmounts(dx, dy);
    else if (this.#doing === "pick") void this.#pick(place);
  }

  #turn(place: Point, coarse: boolean): void {
    const { view } = useTable.getState();
    const { width, height } = this.session.screen;
    const angle = (p: Point): number => Math.atan2(p.y - height / 2, p.x - width / 2);
    this.#turned += angle(place) - angle(this.#last);
    const step = coarse ? Math.PI / 12 : 0;
    const amount = step ? Math.round(this.#turned / step) * step : this.#turned;
    if (amount === 0) return;
    this.#turned -= amount;
    this.session.setView(
      snapped(turnedAt(view, this.session.screen, amount, width / 2, height / 2)),
    );
  }

  #box(place: Point): void {
    const { x, y } = this.#onPicture(place);
    const { x: x0, y: y0 } = this.#boxFrom;
    useTable.setState({
      box: {
        left: Math.min(x, x0),
        top: Math.min(y, y0),
        right: Math.max(x, x0),
        bottom: Math.max(y, y0),
      },
    });
  }

  /** Where the pointer was last heard of in the view, CSS px, and the view's size. */
  whereabouts(): { x: number; y: number; width: number; height: number } {
    const { clientWidth: width, clientHeight: height } = this.element;
    const { x, y } = this.#hovered ?? { x: width / 2, y: height / 2 };
    return { x, y, width, height };
  }

  /** Begins to pick: wherever the press goes, what is picked meets the colour that was in hand before. */
  #startPicking(place: Point): void {
    this.#doing = "pick";
    this.#pickedInto = useTable.getState().colour;
    void this.#pick(place);
  }

  async #pick(place: Point): Promise<void> {
    const { x, y } = this.#onPicture(place);
    const into = this.#pickedInto;
    const { pickFrom, pickRadius: radius, pickShare, selected } = useTable.getState();
    const layer = pickFrom === "layer" ? (selected[0] ?? null) : null;
    const hex = await this.session.link.api.colourAt(x, y, { radius, layer });
    if (hex) useTable.getState().chooseColour(pickShare < 1 ? stirred(into, hex, pickShare) : hex);
  }

  /** Sends samples on to the engine. */
  #draw(events: readonly PointerEvent[], latest?: PointerEvent): void {
    const list = events.length > 0 ? events : latest ? [latest] : [];
    if (this.#doing === "line") {
      const newest = list.at(-1);
      if (newest) this.#drawLine(newest);
      return;
    }
    for (const event of list) this.#write(this.#samples.of(event));
    this.session.link.wake();
    const last = list.at(-1);
    if (last) this.#lastEnd = this.#onPicture(this.#place(last));
  }

  /** Hands a sample on, along the guide that the stroke means where it follows one. */
  #write([t, ...rest]: Sample): void {
    const { pen } = this.session.link;
    // What was said for a pen at rest may be a little later than what it says next of itself.
    const sample: Sample = [Math.max(t, this.#newest?.sample[0] ?? 0), ...rest];
    const followed = this.#follower?.take(sample) ?? { samples: [sample], again: false };
    if (followed.again) pen.mark("restart");
    for (const one of followed.samples) pen.write(one);
    this.#newest = { sample, at: performance.now() };
  }

  /** A straight stroke from where the last one ended: drawn anew as the pen moves. */
  #drawLine(event: PointerEvent): void {
    const from = this.#lineFrom;
    if (!from) return;
    const { pen, wake } = this.session.link;
    const [, x, y, pressure, ...lean] = this.#samples.of(event);
    pen.mark("restart");
    for (let i = 0; i <= STRAIGHT_POINTS; i++) {
      const u = i / STRAIGHT_POINTS;
      pen.write([i * 8, from.x + (x - from.x) * u, from.y + (y - from.y) * u, pressure, ...lean]);
    }
    wake();
    this.#lastEnd = { x, y };
  }

  #up(event: PointerEvent): void {
    this.#lifted(event);
    if (event.pointerId !== this.#pointer) return;
    this.#awaitsTouch = false;
    this.#beginWaiting();
    if (this.#doing === "stroke") this.#draw([event]);
    if (this.isDrawing) void this.session.endStroke();
    if (this.#doing === "box") void this.#boxDone();
    if (this.#doing === "region") void this.#regions.end();
    if (this.#doing === "correct") {
      this.#correct(event);
      void this.#gesture?.end();
    }
    this.#doing = null;
    this.#pointer = -1;
  }

  async #boxDone(): Promise<void> {
    const { box, tool } = useTable.getState();
    if (tool === "tip box") return this.session.takeTip();
    useTable.setState({ box: null, tool: "transform" });
    await beginTransform(this.session, box);
  }

  #cancel(event: PointerEvent): void {
    this.#taps.spoil();
    this.#dropWaiting();
    this.#lifted(event);
    if (event.pointerId !== this.#pointer) return;
    // The system took the pointer away: what was drawn stays.
    if (this.isDrawing) void this.session.link.api.endStroke();
    if (this.#doing === "correct") this.#gesture?.giveUp();
    this.#doing = null;
    this.#pointer = -1;
  }

  #lifted(event: PointerEvent): void {
    if (event.pointerId === this.#pointer) {
      clearTimeout(this.#resting);
      clearInterval(this.#pouring);
    }
    if (this.#touches.size === 2 && this.#touches.has(event.pointerId)) this.#pinched(event);
    this.#touches.delete(event.pointerId);
    if (event.pointerType === "touch")
      return this.#tapped(this.#taps.up(event.pointerId, event.timeStamp));
    if (event.pointerType !== "pen") return;
    this.#penDown = false;
    this.#penAt = event.timeStamp;
  }

  // ---- fingers ----

  /** Whether a touch is taken care of. A palm beside the pen changes nothing. */
  #touchDown(event: PointerEvent, place: Point): boolean {
    if (this.#penDown || event.timeStamp - this.#penAt < PALM) return true;
    if (Math.max(event.width, event.height) > WIDEST_FINGER) return true;
    this.#touches.set(event.pointerId, place);
    this.#taps.down(event.pointerId, onPage(event), event.timeStamp);
    if (this.#touches.size === 2) {
      const [a, b] = [...this.#touches.values()];
      if (a && b) this.#pinch = { at: event.timeStamp, apart: distance(a, b), share: 1 };
      this.#dropWaiting();
      if (this.isDrawing) this.#giveUp();
      if (this.#doing === "correct") this.#gesture?.giveUp();
      this.#doing = null;
      this.#pointer = -1;
      return true;
    }
    if (this.#touches.size > 2) return true;
    const { finger } = useTable.getState().pen;
    if (finger === "rests") return true;
    if (finger === "moves" || (finger === "auto" && this.#penSeen)) {
      this.#doing = "pan";
      this.#pointer = event.pointerId;
      this.#byTouch = true;
      this.#last = place;
      return true;
    }
    return false;
  }

  /** Two fingers that came together quickly: the whole sheet is wanted. */
  #pinched({ timeStamp }: PointerEvent): void {
    const { at, share } = this.#pinch;
    if (share < QUICK_PINCH.share && timeStamp - at < QUICK_PINCH.within) this.session.fit();
  }

  /** Two fingers undo, three redo. */
  #tapped(fingers: number): void {
    if (fingers === 2) void this.session.undo();
    if (fingers === 3) void this.session.redo();
  }

  /** A second finger came: what the first has drawn was not meant. */
  #giveUp(): void {
    this.session.link.pen.mark("abandon");
    this.session.link.wake();
    useTable.setState({ kept: null });
  }

  /** Two fingers move, turn and zoom the sheet so that it stays under them. */
  #touchMove(event: PointerEvent): boolean {
    const before = [...this.#touches.values()];
    this.#touches.set(event.pointerId, this.#place(event));
    this.#taps.move(event.pointerId, onPage(event));
    const [a, b] = before;
    const [c, d] = [...this.#touches.values()];
    if (!a || !b || !c || !d) return false;
    this.#pinch.share = distance(c, d) / Math.max(1, this.#pinch.apart);
    const { screen } = this.session;
    const middle = { x: (c.x + d.x) / 2, y: (c.y + d.y) / 2 };
    let { view } = useTable.getState();
    view = panned(view, middle.x - (a.x + b.x) / 2, middle.y - (a.y + b.y) / 2);
    const grown = distance(c, d) / Math.max(1, distance(a, b));
    view = zoomedAt(view, screen, grown, middle.x, middle.y);
    const turned = Math.atan2(d.y - c.y, d.x - c.x) - Math.atan2(b.y - a.y, b.x - a.x);
    view = turnedAt(
      view,
      screen,
      Math.atan2(Math.sin(turned), Math.cos(turned)),
      middle.x,
      middle.y,
    );
    this.session.setView(view);
    return true;
  }

  #wheel(event: WheelEvent): void {
    event.preventDefault();
    const { view } = useTable.getState();
    const place = this.#place(event);
    if (
      event.ctrlKey ||
      event.metaKey ||
      event.deltaMode !== 0 ||
      (event.deltaX === 0 && Math.abs(event.deltaY) >= 50)
    ) {
      const factor = Math.exp(-event.deltaY / (event.ctrlKey ? 120 : 500));
      this.session.setView(zoomedAt(view, this.session.screen, factor, place.x, place.y));
    } else this.session.setView(panned(view, -event.deltaX, -event.deltaY));
  }
}

const onPage = ({ clientX: x, clientY: y }: PointerEvent): Point => ({ x, y });

/** The view after the picture was pushed by (dx, dy) device px. */
const distance = (a: Point, b: Point): number => Math.hypot(a.x - b.x, a.y - b.y);

function panned(view: View, dx: number, dy: number): View {
  const [px, py] = toPicture(viewMatrix({ ...view, x: 0, y: 0 }, { width: 0, height: 0 }), dx, dy);
  return { ...view, x: view.x - px, y: view.y - py };
}

function snapped(view: View): View {
  const whole = Math.round(view.angle / (Math.PI / 2)) * (Math.PI / 2);
  return Math.abs(view.angle - whole) < TURN_SNAP ? { ...view, angle: whole } : view;
}

/** The study whose frame holds a place. */
function frameAt(studies: Studies | null | undefined, { x, y }: Point): { frame?: number } {
  const frame = studies?.frames.findIndex(
    ({ left, top, right, bottom }) => x >= left && x < right && y >= top && y < bottom,
  );
  return frame === undefined || frame < 0 ? {} : { frame };
}

/** Size across, strength up and down. */
function changeAmounts(dx: number, dy: number): void {
  const state = useTable.getState();
  const { size, strength } = amountsNow(state);
  state.setAmounts({
    size: sizeAt(positionOf(size) + dx / 400),
    strength: Math.min(1, Math.max(0.01, strength - dy / 250)),
  });
}
