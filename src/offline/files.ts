import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";

export type KeptFile = { url: string; revision: string | null };

/** Everything in a folder, as paths below it with slashes. */
async function filesIn(folder: string): Promise<string[]> {
  const found = await readdir(folder, { recursive: true, withFileTypes: true });
  return found
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name).slice(folder.length + 1))
    .map((path) => path.split("\\").join("/"))
    .sort();
}

const hashOf = async (path: string): Promise<string> =>
  createHash("sha256")
    .update(await readFile(path))
    .digest("hex")
    .slice(0, 16);

/**
 * All files that one version of Pampas needs, to be kept in the browser. Those of the build carry what they hold in
 * their names; others are told apart by what they hold, pages by the build.
 * @param root the folder that the application runs in
 */
export async function keptFiles(root: string): Promise<KeptFile[]> {
  const build = (await readFile(join(root, ".next", "BUILD_ID"), "utf8")).trim();
  const built = await filesIn(join(root, ".next", "static"));
  const own = (await filesIn(join(root, "public"))).filter((path) => path !== "offline.js");
  return [
    { url: "/", revision: build },
    { url: "/table?picture=offline", revision: build },
    { url: "/manifest.webmanifest", revision: build },
    ...built.map((path) => ({ url: `/_next/static/${encodeURI(path)}`, revision: null })),
    ...(await Promise.all(
      own.map(async (path) => ({
        url: `/${encodeURI(path)}`,
        revision: await hashOf(join(root, "public", path)),
      })),
    )),
  ];
}
