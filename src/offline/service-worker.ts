import { clientsClaim } from "workbox-core";
import {
  addPlugins,
  cleanupOutdatedCaches,
  createHandlerBoundToURL,
  precacheAndRoute,
  type PrecacheEntry,
} from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { NetworkFirst } from "workbox-strategies";
import { keepShared } from "../storage/shared-files";
import { SHARE, SHARED_FIELD, SHARED_PAGE } from "../studio/files/share-address";

/**
 * Keeps all of one version of Pampas in the browser, so that it works with the server stopped. A newer version is
 * fetched beside it and waits until the person asks for it.
 */
type Scope = {
  /** Every file of this version: see `files.ts`. */
  FILES: PrecacheEntry[];
  skipWaiting(): Promise<void>;
  addEventListener(type: "message", listen: (event: { data: unknown }) => void): void;
};
const scope = self as unknown as Scope;

/** Pages that are kept; the table reads which picture it is of from its address. */
const PORTFOLIO = "/";
const TABLE = "/table?picture=offline";

/**
 * A kept answer carries the address that it was fetched from; one made anew takes that which was asked for, with all
 * that follows its #: a worker reads there what it is to run.
 */
const asAsked = ({ body, status, statusText, headers }: Response): Response =>
  new Response(body, { status, statusText, headers });

cleanupOutdatedCaches();
addPlugins([
  {
    cachedResponseWillBeUsed: ({ cachedResponse }) =>
      Promise.resolve(cachedResponse ? asAsked(cachedResponse) : null),
  },
]);
precacheAndRoute(scope.FILES);
registerRoute(
  new NavigationRoute(createHandlerBoundToURL(PORTFOLIO), { allowlist: [/^\/(\?.*)?$/] }),
);
registerRoute(
  new NavigationRoute(createHandlerBoundToURL(TABLE), { allowlist: [/^\/table\?picture=/] }),
);
// Which sample pictures there are: from the server where it answers.
registerRoute(({ url }) => url.pathname === "/api/samples", new NetworkFirst());
// What another program shares goes to the Portfolio; it never leaves this device.
registerRoute(
  ({ url }) => url.pathname === SHARE,
  async ({ request }) => {
    const form = await request.formData();
    await keepShared(form.getAll(SHARED_FIELD));
    return Response.redirect(SHARED_PAGE, 303);
  },
  "POST",
);

// The first version takes the page that brought it in under its care; later ones wait.
clientsClaim();
scope.addEventListener("message", ({ data }) => {
  if (data === "renew") void scope.skipWaiting();
});
