"use client";

import { useEffect } from "react";
import { settle, tell } from "../studio/notices/notices";

const NEWER = "a newer version";
/** How often an open page asks whether there is a newer version, ms. */
const ASK_AGAIN = 3_600_000;

/** Says that a newer version waits; it takes over when that is wished for, and the page begins anew. */
function offer(waiting: ServiceWorker): void {
  tell(
    "A newer version of Pampas is here. It is taken up when you like; what you drew stays.",
    {
      label: "Renew",
      act: () => {
        settle(NEWER);
        navigator.serviceWorker.addEventListener("controllerchange", () => location.reload(), {
          once: true,
        });
        waiting.postMessage("renew");
      },
    },
    NEWER,
  );
}

/** Looks whether a version that was fetched waits while another one is at work. */
function watch(registration: ServiceWorkerRegistration): void {
  const look = (): void => {
    if (registration.waiting && navigator.serviceWorker.controller) offer(registration.waiting);
  };
  look();
  registration.addEventListener("updatefound", () =>
    registration.installing?.addEventListener("statechange", look),
  );
}

/** Where the code is being worked on, nothing that was kept may stand in its way. */
async function leave(): Promise<void> {
  const kept = await navigator.serviceWorker.getRegistrations();
  await Promise.all(kept.map((registration) => registration.unregister()));
}

/** Keeps Pampas in the browser, so that it works with the server stopped, and renews it only when asked. */
export function OfflineCare() {
  useEffect(() => {
    if (!("serviceWorker" in navigator)) return;
    if (process.env.NODE_ENV !== "production") return void leave();
    let again: ReturnType<typeof setInterval> | undefined;
    // What the page itself needs comes first.
    const begin = setTimeout(() => {
      void navigator.serviceWorker.register("/service-worker.js", { scope: "/" }).then(
        // Where it may not be kept there is none, whatever the type says.
        (registration: ServiceWorkerRegistration | undefined) => {
          if (!registration) return;
          watch(registration);
          again = setInterval(() => void registration.update().catch(() => undefined), ASK_AGAIN);
        },
        // Without it Pampas works as long as the server does.
        () => undefined,
      );
    }, 2000);
    return () => {
      clearTimeout(begin);
      clearInterval(again);
    };
  }, []);
  return null;
}
