import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { useEffect, useRef } from "react";
import type { Kind } from "../../api/client";
import type { Step } from "../model/piece";
import { useRestedDocument } from "../store";
import { useSmallLook } from "../useSmallLook";

interface Props {
  step: Step;
  kind: Kind | undefined;
  layer: string;
  index: number;
  chosen: boolean;
  /** What of it the Tab key reaches. */
  tab: 0 | -1;
  onChoose: () => void;
  onSwitch: (on: boolean) => void;
  onRemove: () => void;
}

/** One step of the trail with the picture as it is after it; drag to reorder. */
export function TrailCard({ step, kind, layer, index, chosen, tab, onChoose, onSwitch, onRemove }: Props) {
  const document = useRestedDocument();
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: step.id });
  const { url, failed } = useSmallLook(document, index + 1, layer);
  const on = step.on !== false;
  const card = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (chosen) card.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [chosen]);
  const label = kind?.label ?? step.kind;
  return (
    <div
      ref={(element) => {
        card.current = element;
        setNodeRef(element);
      }}
      className={`trail-card family-${kind?.family ?? "prepare"} ${chosen ? "chosen" : ""} ${on ? "" : "off"}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <button
        type="button"
        className="bare pick"
        {...attributes}
        {...listeners}
        tabIndex={tab}
        data-roving={step.id}
        aria-label={`Step ${index + 1}, ${label}`}
        aria-current={chosen ? "step" : undefined}
        onClick={onChoose}
      >
        {url ? <img src={url} alt="" draggable={false} /> : <span className="blank">{failed ? "cannot be shown" : ""}</span>}
      </button>
      <button type="button" className="bare gone" tabIndex={tab} aria-label={`Remove ${label}`} title="Remove" onClick={onRemove}>
        ×
      </button>
      <div className="foot">
        <span className="clip" title={label}>
          {label}
        </span>
        <button
          type="button"
          className="bare onoff"
          tabIndex={tab}
          role="switch"
          aria-checked={on}
          aria-label={`${label} on`}
          title={on ? "Switch off" : "Switch on"}
          onClick={() => onSwitch(!on)}
        >
          <i />
        </button>
      </div>
    </div>
  );
}
