import { useEffect, useState } from "react";
import { inTime } from "../shared/inTime";
import type { Looks } from "./looks";
import "./Waiting.css";

/** What comes sooner is not told. */
const PATIENCE = 500;
const TICK = 1000;

/** Says that what is on the stage is a draft or the picture before, and how long it will be; the work can be cancelled, and taken up again. */
export function Waiting({ wanted, isDraft, looks }: { wanted: boolean; isDraft: boolean; looks: Looks }) {
  const [shown, setShown] = useState(false);
  const [left, setLeft] = useState<number | null>(null);
  const [stopped, setStopped] = useState(false);
  useEffect(() => {
    setShown(false);
    setStopped(false);
    if (!wanted) return undefined;
    const tell = () => {
      setShown(true);
      setLeft(looks.expected());
    };
    const first = window.setTimeout(tell, PATIENCE);
    const later = window.setInterval(tell, TICK);
    return () => {
      window.clearTimeout(first);
      window.clearInterval(later);
    };
  }, [wanted, looks]);
  if (!shown) return null;
  const what = isDraft ? "Draft" : "Previous picture";
  const when = stopped
    ? ""
    : left === null
      ? " · sharp soon"
      : left < 500
        ? " · sharp in a moment"
        : ` · sharp in about ${inTime(left / 1000)}`;
  return (
    <div className="waiting-badge" role="status">
      <span>{`${what}${when}`}</span>
      <button
        type="button"
        className="bare link"
        onClick={() => {
          setStopped(!stopped);
          if (stopped) looks.sharpen();
          else looks.stop();
        }}
      >
        {stopped ? "Make it sharp" : "Stop"}
      </button>
    </div>
  );
}
