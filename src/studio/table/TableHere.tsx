"use client";

import { useSearchParams } from "next/navigation";
import { Table } from "./Table";

/** The table of the picture that the address names: the page itself is the same for all, so that it can be kept. */
export function TableHere() {
  const id = useSearchParams().get("picture");
  return id ? <Table key={id} id={id} /> : null;
}
