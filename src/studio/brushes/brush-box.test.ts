import "fake-indexeddb/auto";
import { brushes as shipped, findBrush } from "../../engine/media";
import { type Brush } from "../../engine/stroke/brush";
import { useNotices } from "../notices/notices";
import {
  brushById,
  copyOf,
  FAVOURITES_KIT,
  firstOf,
  keepBrush,
  kitsOf,
  MOST_FAVOURITES,
  ownBrush,
  OWN_KIT,
  PICTURE_KIT,
  throwBrushAway,
  toggleFavourite,
  useBrushBox,
} from "./brush-box";

const order = [...new Set(shipped.map(({ kit }) => kit))];
const chalk = findBrush("chalk") as Brush;
const foreign: Brush = { ...chalk, id: "from-elsewhere", name: "Elsewhere", kit: "Their kit" };

beforeEach(() => {
  useBrushBox.setState({ own: [], ofPicture: [], favourites: [] });
  useNotices.setState({ notices: [] });
});

const names = (): string[] => kitsOf(useBrushBox.getState(), order).map(({ name }) => name);

describe("kits", () => {
  it("that ship come in the stage's order, all brushes in them", () => {
    expect(names()).toEqual(order);
    const all = kitsOf(useBrushBox.getState(), order).flatMap(({ brushes }) => brushes);
    expect(all).toHaveLength(shipped.length);
  });

  it("favourites come first, one's own next, the picture's last", async () => {
    await keepBrush(copyOf(chalk));
    useBrushBox.setState({ ofPicture: [foreign], favourites: ["pen-fine", "gone"] });
    expect(names()).toEqual([FAVOURITES_KIT, OWN_KIT, ...order, PICTURE_KIT]);
  });

  it("a brush of the picture that is here too is shown once", () => {
    useBrushBox.setState({ ofPicture: [chalk] });
    expect(names()).not.toContain(PICTURE_KIT);
  });
});

describe("a brush of one's own", () => {
  it("is a copy with an id of its own; the one that ships stays", async () => {
    const copy = copyOf(chalk);
    expect(copy.id).not.toBe(chalk.id);
    expect(copy).toMatchObject({ name: "Chalk copy", kit: OWN_KIT, author: "" });
    await keepBrush(copy);
    expect(brushById(copy.id)).toEqual(copy);
    expect(ownBrush(copy.id)).toEqual(copy);
    expect(ownBrush("chalk")).toBeNull();
    expect(brushById("chalk")).toBe(chalk);
  });

  it("knows what it was at first", async () => {
    const copy = copyOf(chalk);
    await keepBrush(copy);
    await keepBrush({ ...copy, size: 99 });
    expect(brushById(copy.id)?.size).toBe(99);
    expect(firstOf(copy.id)).toEqual(copy);
  });

  it("that is thrown away is off the tray until it is taken back", async () => {
    const copy = copyOf(chalk);
    await keepBrush(copy);
    await throwBrushAway(copy);
    expect(brushById(copy.id)).toBeUndefined();
    expect(names()).not.toContain(OWN_KIT);
    const [notice] = useNotices.getState().notices;
    expect(notice?.text).toContain("thrown away");
    const back = new Promise<void>((resolve) => {
      const stop = useBrushBox.subscribe(() => {
        stop();
        resolve();
      });
    });
    notice?.action?.act();
    await back;
    expect(brushById(copy.id)).toEqual(copy);
  });
});

describe("favourites", () => {
  it("are put on the shelf and taken off again", async () => {
    await toggleFavourite("chalk");
    expect(useBrushBox.getState().favourites).toEqual(["chalk"]);
    await toggleFavourite("chalk");
    expect(useBrushBox.getState().favourites).toEqual([]);
  });

  it("have room for so many, and the next is told so", async () => {
    useBrushBox.setState({ favourites: shipped.slice(0, MOST_FAVOURITES).map(({ id }) => id) });
    await toggleFavourite("rope");
    expect(useBrushBox.getState().favourites).not.toContain("rope");
    expect(useNotices.getState().notices[0]?.text).toContain(String(MOST_FAVOURITES));
  });
});
