import { z } from "zod";

/** What comes with Pampas, as `scripts/about.mjs` wrote it down. */
const aboutSchema = z.object({
  version: z.string().min(1),
  licence: z.string().min(1),
  packages: z.array(
    z.object({
      name: z.string().min(1),
      version: z.string(),
      licence: z.string(),
      /** What the package’s own file says; "" where it has none. */
      text: z.string(),
    }),
  ),
});

export type About = z.infer<typeof aboutSchema>;

/** @throws Error where it is not there, or is something else */
export async function readAbout(): Promise<About> {
  const response = await fetch("/about.json");
  if (!response.ok) throw new TypeError("about.json could not be fetched");
  return aboutSchema.parse(await response.json());
}

/** Packages whose name or licence holds what was typed, whatever its letters’ size. */
export function packagesLike(packages: About["packages"], typed: string): About["packages"] {
  const sought = typed.trim().toLowerCase();
  return packages.filter(({ name, licence }) =>
    `${name} ${licence}`.toLowerCase().includes(sought),
  );
}
