import type { Placed } from "../model/geometry";
import type { Shown } from "../useLook";
import { Picture } from "./Picture";
import "./Beside.css";

/** What is compared with, in the right half of the stage, zoomed and moved alike. */
export function Beside({ shown, box, left, label }: { shown: Shown; box: Placed; left: number; label: string }) {
  return (
    <div className="beside" style={{ left }}>
      <Picture shown={shown} box={box} cut={null} />
      <span className="beside-label">{label}</span>
    </div>
  );
}
