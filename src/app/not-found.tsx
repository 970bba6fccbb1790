import Link from "next/link";

export default function NotFound() {
  return (
    <div className="waiting">
      <h1 style={{ fontSize: "1.1rem" }}>There is nothing at this address</h1>
      <p className="mb-1">Your pictures are in the Portfolio.</p>
      <Link className="btn btn-strong" href="/">
        Open the Portfolio
      </Link>
    </div>
  );
}
