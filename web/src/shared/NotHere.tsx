import { Link } from "react-router";
import { Head } from "./Head";
import { Mark } from "./Mark";

/** What a wrong address or a deleted piece shows. */
export function NotHere({ text = "There is nothing at this address." }: { text?: string }) {
  return (
    <div className="app">
      <Head />
      <main className="centre-note">
        <Mark size={64} />
        <h1>{text}</h1>
        <Link to="/">To the Shelf</Link>
      </main>
    </div>
  );
}
