import { DndContext, type DragEndEvent, type DragMoveEvent, PointerSensor, pointerWithin, useSensor, useSensors } from "@dnd-kit/core";
import { useState } from "react";
import { Splitter } from "../../shared/Splitter";
import { Lane } from "../layers/Lane";
import type { Side } from "../model/edits";
import { type Entry, entryOf, isGroup } from "../model/piece";
import { prefer, TRAIL, usePrefs } from "../prefs";
import { useBenchPart, useRestedDocument } from "../store";
import "./Trail.css";

/** The lanes from the front to the back, a group as a bracket before its own. */
const lanesOf = (entries: Entry[], depth = 0): { entry: Entry; depth: number }[] =>
  [...entries].reverse().flatMap((entry) => [{ entry, depth }, ...(isGroup(entry) ? lanesOf(entry.layers, depth + 1) : [])]);

/** Where a layer that is dragged would come to lie. */
interface Target {
  on: string;
  side: Side;
}

/** The trail: a lane per layer, the front one on top; the lane that is worked on shows its steps. */
export function Trail() {
  const { selected, overlay, edit, patch, toggle } = useBenchPart("selected", "overlay", "edit", "patch", "toggle");
  const document = useRestedDocument();
  const height = usePrefs((prefs) => prefs.trailHeight);
  const lanes = lanesOf(document.layers);
  const [target, setTarget] = useState<Target | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const targetOf = ({ active, over, activatorEvent, delta }: DragMoveEvent): Target | null => {
    if (!over || over.id === active.id) return null;
    const y = (activatorEvent as PointerEvent).clientY + delta.y;
    const share = (y - over.rect.top) / over.rect.height;
    const entry = entryOf(document, String(over.id));
    const within = entry && isGroup(entry) && share > 0.3 && share < 0.7;
    return { on: String(over.id), side: within ? "into" : share < 0.5 ? "above" : "below" };
  };
  const drop = (event: DragEndEvent) => {
    const there = targetOf(event);
    setTarget(null);
    if (there) edit({ type: "dropEntry", id: String(event.active.id), ...there });
  };
  return (
    <section className="trail" aria-label="Trail">
      <Splitter label="Height of the trail" lies="across" value={height} {...TRAIL} onChange={(trailHeight) => prefer({ trailHeight })} />
      <div className={`lanes ${lanes.length > 1 ? "several" : ""}`}>
        <DndContext
          sensors={sensors}
          collisionDetection={pointerWithin}
          onDragMove={(event) => setTarget(targetOf(event))}
          onDragEnd={drop}
          onDragCancel={() => setTarget(null)}
        >
          {lanes.map(({ entry, depth }) => (
            <Lane key={entry.id} entry={entry} depth={depth} dropped={target?.on === entry.id ? target.side : null} />
          ))}
        </DndContext>
      </div>
      <div className="lane-tools">
        <button type="button" className="bare chip" aria-expanded={overlay?.kind === "add-layer"} onClick={() => toggle("add-layer")}>
          + Layer
        </button>
        <button
          type="button"
          className="bare chip"
          aria-label="The whole piece"
          aria-pressed={selected === null}
          onClick={() => patch({ selected: null, side: "step", whereOpen: false })}
        >
          Whole piece
        </button>
      </div>
    </section>
  );
}
