import { create } from "zustand";

/** Something to tell the person: what happened, what was kept, what to do. */
export type Notice = {
  id: number;
  text: string;
  action?: { label: string; act: () => void };
  /** Of several about the same thing only the newest is shown. */
  about?: string;
};

type NoticesState = {
  notices: Notice[];
  tell: (text: string, action?: Notice["action"], about?: string) => void;
  /** What a notice was about is over. */
  settle: (about: string) => void;
  dismiss: (id: number) => void;
};

let next = 1;
const MOST = 3;

/** Drops the oldest beyond the limit; those that ask for something to be done stay. */
function fewest(notices: Notice[]): Notice[] {
  let over = notices.length - MOST;
  return notices.filter(({ action }) => action || over-- <= 0);
}

export const useNotices = create<NoticesState>()((set) => ({
  notices: [],
  tell: (text, action, about) =>
    set(({ notices }) => {
      const isSame = (one: Notice): boolean =>
        one.text === text || (about !== undefined && one.about === about);
      const known = notices.find(isSame);
      const told: Notice = { id: known?.id ?? next++, text, action, about };
      return { notices: fewest([...notices.filter((one) => !isSame(one)), told]) };
    }),
  settle: (about) =>
    set(({ notices }) => ({ notices: notices.filter((one) => one.about !== about) })),
  dismiss: (id) =>
    set(({ notices }) => ({ notices: notices.filter((notice) => notice.id !== id) })),
}));

export const tell: NoticesState["tell"] = (text, action, about) =>
  useNotices.getState().tell(text, action, about);

export const settle = (about: string): void => useNotices.getState().settle(about);
