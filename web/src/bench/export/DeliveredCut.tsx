import { boxStyle, type Placed } from "../model/geometry";
import "./DeliveredCut.css";

/** What a delivery's shape cuts off, darkened on the picture. */
export function DeliveredCut({ box, kept }: { box: Placed; kept: { across: number; down: number } | null }) {
  if (!kept) return null;
  return (
    <div className="delivered-cut" style={boxStyle(box)} role="img" aria-label="What is exported">
      <i style={{ width: `${100 * kept.across}%`, height: `${100 * kept.down}%` }} />
    </div>
  );
}
