import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { keptFiles } from "./files";

describe("the files of a version", () => {
  const root = mkdtempSync(join(tmpdir(), "pampas-"));
  const write = (path: string, text: string): void => {
    mkdirSync(join(root, path, ".."), { recursive: true });
    writeFileSync(join(root, path), text);
  };
  beforeAll(() => {
    write(".next/BUILD_ID", "seven\n");
    write(".next/static/chunks/a b.js", "1");
    write(".next/static/media/face.woff2", "2");
    write("public/favicon.svg", "3");
    write("public/offline.js", "4");
  });
  afterAll(() => rmSync(root, { recursive: true }));

  it("are its pages, all of the build, and what lies beside it but for what keeps them", async () => {
    const files = await keptFiles(root);
    expect(files.map(({ url }) => url)).toEqual([
      "/",
      "/table?picture=offline",
      "/manifest.webmanifest",
      "/_next/static/chunks/a%20b.js",
      "/_next/static/media/face.woff2",
      "/favicon.svg",
    ]);
    expect(files.slice(0, 3).map(({ revision }) => revision)).toEqual(["seven", "seven", "seven"]);
    expect(files.slice(3, 5).map(({ revision }) => revision)).toEqual([null, null]);
  });

  it("are others when one of them holds something else", async () => {
    const before = await keptFiles(root);
    write("public/favicon.svg", "three");
    const after = await keptFiles(root);
    expect(after.at(-1)?.revision).not.toBe(before.at(-1)?.revision);
    expect(after.slice(0, -1)).toEqual(before.slice(0, -1));
  });
});
