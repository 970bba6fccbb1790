import { ProgressBar } from "react-bootstrap";

export default function Loading() {
  return (
    <div className="waiting" role="status">
      <div>Opening Pampas…</div>
      <ProgressBar now={8} aria-label="Progress" />
    </div>
  );
}
