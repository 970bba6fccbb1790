import { redirect } from "next/navigation";
import { z } from "zod";
import { TableHere } from "@/studio/table/TableHere";

const search = z.object({ picture: z.string().min(1).max(64) });

export default async function TablePage({ searchParams }: { searchParams: Promise<unknown> }) {
  if (!search.safeParse(await searchParams).success) redirect("/");
  return <TableHere />;
}
