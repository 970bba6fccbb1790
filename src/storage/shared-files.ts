/** Where other programs of a device share files to: see `share_target` in the manifest. */
export const SHARE = "/share";
/** The field that they come in. */
export const SHARED_FIELD = "pictures";
/** The Portfolio, told that something was shared. */
export const SHARED_PAGE = "/?shared";

/** Where they lie until the Portfolio takes them. */
const CACHE = "pampas-shared";
const NAME = "x-name";

/** Puts shared files where the Portfolio finds them. */
export async function keepShared(form: FormData): Promise<void> {
  const cache = await caches.open(CACHE);
  const files = form.getAll(SHARED_FIELD).filter((entry) => entry instanceof File);
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
