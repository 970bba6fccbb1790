import { create } from "zustand";
import { type ExportForm, type KeptExport, MOST_KEPT_EXPORTS } from "../../../storage/kept-exports";
import { remember } from "../session";

/** Exports kept by name, in the order in which they were kept. */
export const useKeptExports = create<{ list: readonly KeptExport[] }>(() => ({ list: [] }));

function keep(list: readonly KeptExport[]): void {
  useKeptExports.setState({ list });
  void remember({ exports: [...list] });
}

/** Keeps an export under a name; one that had it already is replaced. @returns whether there was room */
export function keepExport(name: string, form: ExportForm): boolean {
  const { list } = useKeptExports.getState();
  const known = list.findIndex((one) => one.name === name);
  const made = { name, form, runs: true };
  if (known >= 0) keep(list.with(known, made));
  else if (list.length >= MOST_KEPT_EXPORTS) return false;
  else keep([...list, made]);
  return true;
}

export const forgetExport = (name: string): void =>
  keep(useKeptExports.getState().list.filter((one) => one.name !== name));

/** Whether a kept export runs with the others. */
export const setRuns = (name: string, runs: boolean): void =>
  keep(useKeptExports.getState().list.map((one) => (one.name === name ? { ...one, runs } : one)));
