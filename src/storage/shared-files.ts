/** Where files that other programs share lie until the Portfolio takes them. */
const CACHE = "pampas-shared";
const NAME = "x-name";

/** Puts what was shared where the Portfolio finds it; what is no file is left out. */
export async function keepShared(shared: readonly FormDataEntryValue[]): Promise<void> {
  const cache = await caches.open(CACHE);
  const files = shared.filter((entry) => entry instanceof File);
  for (const [i, file] of files.entries()) {
    const headers = { [NAME]: encodeURIComponent(file.name) };
    await cache.put(`/shared/${Date.now()}-${i}`, new Response(file, { headers }));
  }
}

/** Takes the files that were shared, in the order in which they came; each is taken once. */
export async function takeShared(): Promise<File[]> {
  const cache = await caches.open(CACHE);
  const files: File[] = [];
  for (const request of await cache.keys()) {
    const kept = await cache.match(request);
    if (!kept || !(await cache.delete(request))) continue;
    const name = decodeURIComponent(kept.headers.get(NAME) ?? "picture");
    files.push(new File([await kept.blob()], name));
  }
  return files;
}
