import { Splitter } from "../../shared/Splitter";
import { Lane } from "../layers/Lane";
import { type Entry, isGroup } from "../model/piece";
import { prefer, TRAIL, usePrefs } from "../prefs";
import { useBenchPart, useRestedDocument } from "../store";
import "./Trail.css";

/** The lanes from the front to the back, a group as a bracket before its own. */
const lanesOf = (entries: Entry[], depth = 0): { entry: Entry; depth: number }[] =>
  [...entries].reverse().flatMap((entry) => [{ entry, depth }, ...(isGroup(entry) ? lanesOf(entry.layers, depth + 1) : [])]);

/** The trail: a lane per layer, the front one on top; the lane that is worked on shows its steps. */
export function Trail() {
  const { selected, overlay, patch, toggle } = useBenchPart("selected", "overlay", "patch", "toggle");
  const document = useRestedDocument();
  const height = usePrefs((prefs) => prefs.trailHeight);
  const lanes = lanesOf(document.layers);
  return (
    <section className="trail" aria-label="Trail">
      <Splitter label="Height of the trail" lies="across" value={height} {...TRAIL} onChange={(trailHeight) => prefer({ trailHeight })} />
      <div className={`lanes ${lanes.length > 1 ? "several" : ""}`}>
        {lanes.map(({ entry, depth }) => (
          <Lane key={entry.id} entry={entry} depth={depth} />
        ))}
      </div>
      <div className="lane-tools">
        <button type="button" className="bare chip" aria-expanded={overlay?.kind === "add-layer"} onClick={() => toggle("add-layer")}>
          + Layer
        </button>
        <button
          type="button"
          className="bare chip"
          aria-label="The finished picture"
          aria-pressed={selected === null}
          onClick={() => patch({ selected: null, side: "step", whereOpen: false })}
        >
          Finished picture
        </button>
      </div>
    </section>
  );
}
