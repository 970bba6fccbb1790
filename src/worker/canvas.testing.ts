import { type Matrix } from "./view";

/**
 * As much of a canvas as the display uses, for tests without a browser: opaque pixels, the
 * nearest one taken when it is drawn turned or scaled, clips kept to their bounding box.
 */
export class TestCanvas {
  width: number;
  height: number;
  readonly context: TestContext;

  constructor(width: number, height: number) {
    this.width = width;
    this.height = height;
    this.context = new TestContext(this);
  }

  getContext(): TestContext {
    return this.context;
  }

  /** r g b of a pixel. */
  at(x: number, y: number): number[] {
    return [
      ...this.context.pixels.subarray((y * this.width + x) * 4, (y * this.width + x) * 4 + 3),
    ];
  }
}

type Box = { left: number; top: number; right: number; bottom: number };
type State = { matrix: Matrix; clip: Box | null };

export class TestImage {
  readonly data: Uint8ClampedArray;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.data = new Uint8ClampedArray(width * height * 4);
  }
}

export class TestContext {
  fillStyle = "#000000";
  imageSmoothingEnabled = true;
  imageSmoothingQuality = "low";
  /** How many pixels were drawn since this was last set to 0. */
  drawn = 0;
  #pixels = new Uint8ClampedArray(0);
  #path: [number, number][] = [];
  #state: State = { matrix: [1, 0, 0, 1, 0, 0], clip: null };
  #saved: State[] = [];

  constructor(readonly canvas: TestCanvas) {}

  get pixels(): Uint8ClampedArray {
    const length = this.canvas.width * this.canvas.height * 4;
    if (this.#pixels.length !== length) this.#pixels = new Uint8ClampedArray(length);
    return this.#pixels;
  }

  save(): void {
    this.#saved.push({ ...this.#state });
  }

  restore(): void {
    this.#state = this.#saved.pop() ?? this.#state;
  }

  setTransform(...matrix: Matrix): void {
    this.#state = { ...this.#state, matrix };
  }

  beginPath(): void {
    this.#path = [];
  }

  lineTo(x: number, y: number): void {
    this.#path.push([x, y]);
  }

  clip(): void {
    const xs = this.#path.map(([x]) => x);
    const ys = this.#path.map(([, y]) => y);
    const clip = {
      left: Math.floor(Math.min(...xs)),
      top: Math.floor(Math.min(...ys)),
      right: Math.ceil(Math.max(...xs)),
      bottom: Math.ceil(Math.max(...ys)),
    };
    this.#state = { ...this.#state, clip };
  }

  fillRect(x: number, y: number, width: number, height: number): void {
    const rgb = [1, 3, 5].map((at) => parseInt(this.fillStyle.slice(at, at + 2), 16));
    for (let j = y; j < Math.min(this.canvas.height, y + height); j++)
      for (let i = x; i < Math.min(this.canvas.width, x + width); i++) this.#set(i, j, rgb);
  }

  getImageData(x: number, y: number, width: number, height: number): TestImage {
    const image = new TestImage(width, height);
    for (let j = 0; j < height; j++) {
      const from = ((y + j) * this.canvas.width + x) * 4;
      image.data.set(this.pixels.subarray(from, from + width * 4), j * width * 4);
    }
    return image;
  }

  putImageData(image: TestImage, x: number, y: number): void {
    for (let j = 0; j < image.height; j++)
      for (let i = 0; i < image.width; i++) {
        const at = (j * image.width + i) * 4;
        if (x + i < this.canvas.width && y + j < this.canvas.height)
          this.#set(x + i, y + j, image.data.subarray(at, at + 3));
      }
  }

  #set(x: number, y: number, rgb: ArrayLike<number>): void {
    const at = (y * this.canvas.width + x) * 4;
    for (let c = 0; c < 3; c++) this.pixels[at + c] = rgb[c] as number;
    this.pixels[at + 3] = 255;
  }

  drawImage(image: TestCanvas, ...numbers: number[]): void {
    const [sx, sy, sw, sh, x, y, width, height] = (
      numbers.length === 8
        ? numbers
        : [
            0,
            0,
            image.width,
            image.height,
            ...numbers,
            ...(numbers.length === 2 ? [image.width, image.height] : []),
          ]
    ) as [number, number, number, number, number, number, number, number];
    const [a, b, c, d, e, f] = this.#state.matrix;
    const det = a * d - b * c;
    const { clip } = this.#state;
    const { width: across, height: down } = this.canvas;
    const box = clip ?? { left: 0, top: 0, right: across, bottom: down };
    for (let j = Math.max(0, box.top); j < Math.min(down, box.bottom); j++)
      for (let i = Math.max(0, box.left); i < Math.min(across, box.right); i++) {
        const [px, py] = [i + 0.5 - e, j + 0.5 - f];
        const u = ((d * px - c * py) / det - x) / width;
        const v = ((a * py - b * px) / det - y) / height;
        if (u < 0 || v < 0 || u >= 1 || v >= 1) continue;
        this.#set(i, j, image.at(Math.floor(sx + u * sw), Math.floor(sy + v * sh)));
        this.drawn++;
      }
  }
}
