import { useDraggable, useDroppable } from "@dnd-kit/core";
import { useEffect, useRef } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { blendName } from "../model/blendName";
import type { Side } from "../model/edits";
import { asLayer, type Entry, isGroup, sourceName } from "../model/piece";
import { LAYER } from "../model/view";
import { useBenchPart, useRestedDocument } from "../store";
import { useSmallLook } from "../useSmallLook";
import { LaneSteps } from "./LaneSteps";
import "./Lane.css";

interface Props {
  entry: Entry;
  depth: number;
  /** Where what is dragged would come to lie, beside this one or in it. */
  dropped: Side | null;
}

/** A small picture of a layer after its last step. */
function LaneLook({ layer, count }: { layer: string; count: number }) {
  const document = useRestedDocument();
  const { url } = useSmallLook(document, count, layer);
  return url ? <img src={url} alt="" draggable={false} /> : <span className="blank" />;
}

/** A layer or group as a lane of the trail: its name, what can be done at once, and, where it is worked on, its steps. */
export function Lane({ entry, depth, dropped }: Props) {
  const { byKey } = useCatalogue();
  const { layer, selected, solo, edit, patch } = useBenchPart("layer", "selected", "solo", "edit", "patch");
  const active = layer === entry.id;
  const ref = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (active) ref.current?.scrollIntoView({ block: "nearest" });
  }, [active]);
  const drag = useDraggable({ id: entry.id });
  const drop = useDroppable({ id: entry.id });
  const hold = (element: HTMLDivElement | null) => {
    ref.current = element;
    drag.setNodeRef(element);
    drop.setNodeRef(element);
  };
  const { steps } = asLayer(entry);
  const visible = entry.visible !== false;
  const name = entry.name || entry.id;
  const pick = () =>
    patch({
      layer: entry.id,
      selected: LAYER,
      side: "step",
      whereOpen: false,
      whereShape: null,
      tool: null,
    });
  const go = (step: string | null) => patch({ layer: entry.id, selected: step, side: "step" });
  return (
    <div
      ref={hold}
      className={`lane ${dropped ? `drop-${dropped}` : ""} ${drag.isDragging ? "dragged" : ""} ${active ? "active" : ""} ${visible ? "" : "hidden"} ${depth > 0 || isGroup(entry) ? "bracketed" : ""}`}
    >
      <div className="lane-head" style={{ paddingLeft: 14 + depth * 12 }}>
        <button type="button" className="bare lane-grip" tabIndex={-1} aria-hidden="true" title="Drag to reorder" {...drag.listeners} />
        <button
          type="button"
          className={`bare lane-name ${active && selected === LAYER ? "chosen" : ""}`}
          aria-pressed={active}
          title={isGroup(entry) ? "A group" : sourceName(entry.source)}
          onClick={pick}
        >
          <strong className="clip">
            <span className="visually-hidden">Layer </span>
            {name}
          </strong>
          <span className="quiet small clip">
            {isGroup(entry) ? `group of ${entry.layers.length}` : ""}
            {isGroup(entry) && !steps.length ? "" : `${isGroup(entry) ? ", " : ""}${steps.length} ${steps.length === 1 ? "step" : "steps"}`}
            {entry.link ? " · linked" : ""}
            {entry.blend && entry.blend !== "normal" ? ` · ${blendName(entry.blend)}` : ""}
            {(entry.opacity ?? 1) < 1 ? ` · ${Math.round((entry.opacity ?? 1) * 100)} %` : ""}
          </span>
        </button>
        <button
          type="button"
          className="bare lane-eye"
          aria-label={`${visible ? "Hide" : "Show"} ${name}`}
          title={visible ? "Hide" : "Show"}
          aria-pressed={visible}
          onClick={() => edit({ type: "entry", id: entry.id, change: { visible: !visible } })}
        >
          <i />
        </button>
        <button
          type="button"
          className="bare lane-solo"
          aria-label={`Solo ${name}`}
          title="Show only this layer"
          aria-pressed={solo === entry.id}
          onClick={() => patch({ solo: solo === entry.id ? null : entry.id })}
        >
          solo
        </button>
      </div>
      {active ? (
        <LaneSteps layer={asLayer(entry)} group={isGroup(entry)} />
      ) : (
        <div className="lane-small">
          <button type="button" className="bare" tabIndex={-1} aria-label={`Steps of ${name}`} onClick={() => go(null)}>
            <LaneLook layer={entry.id} count={steps.length} />
          </button>
          {steps.map((step) => {
            const kind = byKey.get(step.kind);
            return (
              <button
                key={step.id}
                type="button"
                tabIndex={-1}
                aria-label={`${kind?.label ?? step.kind} of ${name}`}
                className={`bare lane-step family-${kind?.family ?? "prepare"} ${step.on === false ? "off" : ""}`}
                onClick={() => go(step.id)}
              >
                {kind?.label ?? step.kind}
              </button>
            );
          })}
        </div>
      )}
    </div>
  );
}
