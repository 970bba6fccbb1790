import { type Metadata, type Viewport } from "next";
import { connection } from "next/server";
import { type ReactNode } from "react";
import "@fontsource-variable/hanken-grotesk/index.css";
import { OfflineCare } from "@/offline/OfflineCare";
import "./pampas.scss";

export const metadata: Metadata = {
  title: "Pampas",
  description: "Sketch, ink, colour and paint finished illustrations with simulated natural media",
  icons: { icon: "/favicon.svg" },
};

export const viewport: Viewport = {
  themeColor: "#bdbdbd",
  width: "device-width",
  initialScale: 1,
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Rendered a request at a time, so that scripts carry the nonce of the policy.
  await connection();
  return (
    <html lang="en" data-room="studio" suppressHydrationWarning>
      <body>
        {children}
        <OfflineCare />
      </body>
    </html>
  );
}
