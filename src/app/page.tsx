import { Portfolio } from "@/studio/portfolio/Portfolio";

export default function PortfolioPage() {
  return <Portfolio />;
}
