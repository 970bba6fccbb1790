import { redirect } from "next/navigation";
import { z } from "zod";
import { Table } from "@/studio/table/Table";

const search = z.object({ picture: z.string().min(1).max(64) });

export default async function TablePage({ searchParams }: { searchParams: Promise<unknown> }) {
  const asked = search.safeParse(await searchParams);
  if (!asked.success) redirect("/");
  return <Table id={asked.data.picture} />;
}
