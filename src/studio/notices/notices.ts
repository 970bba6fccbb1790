import { create } from "zustand";

/** Something to tell the person: what happened, what was kept, what to do. */
export type Notice = { id: number; text: string; action?: { label: string; act: () => void } };

type NoticesState = {
  notices: Notice[];
  tell: (text: string, action?: Notice["action"]) => void;
  dismiss: (id: number) => void;
};

let next = 1;
const MOST = 4;

export const useNotices = create<NoticesState>()((set) => ({
  notices: [],
  tell: (text, action) =>
    set(({ notices }) => {
      const others = notices.filter((notice) => notice.text !== text);
      return { notices: [...others, { id: next++, text, action }].slice(-MOST) };
    }),
  dismiss: (id) =>
    set(({ notices }) => ({ notices: notices.filter((notice) => notice.id !== id) })),
}));

export const tell: NoticesState["tell"] = (text, action) =>
  useNotices.getState().tell(text, action);
