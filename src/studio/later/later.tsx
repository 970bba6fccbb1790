"use client";

import { type ComponentType, useEffect, useEffectEvent, useState } from "react";
import { tell } from "../notices/notices";

/** How long the page is left alone before the rest of it is brought, ms; and how long it must be idle for each part. */
const REST_AFTER = 4000;
const IDLE_WITHIN = 60_000;

const all: (() => Promise<unknown>)[] = [];

/**
 * A part of the screen whose code is brought when it is first opened, or while the page rests (see `bringTheRest`).
 * @param what its name in a sentence, such as “the workshop”
 * @param giveUp what to do where it cannot be brought
 */
export function later<Props extends object>(
  what: string,
  bring: () => Promise<ComponentType<Props>>,
  giveUp: (props: Props) => void = () => undefined,
): ComponentType<Props> {
  let part: ComponentType<Props> | null = null;
  const brought = async (): Promise<ComponentType<Props>> => (part ??= await bring());
  all.push(brought);
  return function Later(props: Props) {
    const [Part, setPart] = useState(() => part);
    const fail = useEffectEvent(() => {
      tell(`${what} could not be loaded: the server does not answer. Try again when it does.`);
      giveUp(props);
    });
    useEffect(() => {
      if (Part) return;
      let gone = false;
      brought().then(
        (came) => gone || setPart(() => came),
        () => gone || fail(),
      );
      return () => {
        gone = true;
      };
    }, [Part]);
    return Part && <Part {...props} />;
  };
}

/** Waits until the page is idle; a browser that cannot say so is given a while each time. */
const idle = (): Promise<void> =>
  new Promise((resolve) => {
    if (typeof requestIdleCallback === "undefined") setTimeout(resolve, REST_AFTER);
    else requestIdleCallback(() => resolve(), { timeout: IDLE_WITHIN });
  });

/**
 * Brings every part one after the other while the page rests, so that none is waited for later, and a server that
 * stops takes none away. Returns a function that ends it.
 */
export function bringTheRest(): () => void {
  let gone = false;
  const timer = setTimeout(() => void one(0), REST_AFTER);
  const one = async (i: number): Promise<void> => {
    const bring = all[i];
    if (!bring || gone) return;
    await idle();
    // What cannot be brought now is brought, or told of, when it is opened.
    await bring().catch(() => undefined);
    return one(i + 1);
  };
  return () => {
    gone = true;
    clearTimeout(timer);
  };
}
