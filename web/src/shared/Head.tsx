import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { Mark } from "./Mark";
import { type Skip, Skips } from "./Skips";
import "./Head.css";

/** The bar on top: the mark, the ways to go, and what the screen puts beside them. */
export function Head({ children, skips = [] }: { children?: ReactNode; skips?: Skip[] }) {
  const { pathname } = useLocation();
  // On the Bench the piece's name needs the room; recipes stand beside its picture.
  const crowded = pathname.startsWith("/bench");
  return (
    <header className="app-head">
      <Skips to={skips} />
      <Link className="brand" to="/" aria-label="Caracol, to the Shelf">
        <Mark />
        <span className="brand-word">Caracol</span>
      </Link>
      <nav aria-label="Screens">
        <Link to="/" aria-current={pathname === "/" ? "page" : undefined}>
          Shelf
        </Link>
        {!crowded && (
          <>
            <Link to="/recipes" aria-current={pathname.startsWith("/recipes") ? "page" : undefined}>
              Recipes
            </Link>
            <Link to="/runs" aria-current={pathname.startsWith("/runs") ? "page" : undefined}>
              Runs
            </Link>
          </>
        )}
      </nav>
      <div className="slot">{children}</div>
    </header>
  );
}
