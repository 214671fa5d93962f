import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
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
  onChoose: () => void;
  onSwitch: (on: boolean) => void;
  onRemove: () => void;
}

/** One step of the trail with the picture as it is after it; drag to reorder. */
export function TrailCard({ step, kind, layer, index, chosen, onChoose, onSwitch, onRemove }: Props) {
  const document = useRestedDocument();
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: step.id });
  const { url, failed } = useSmallLook(document, index + 1, layer);
  const on = step.on !== false;
  const label = kind?.label ?? step.kind;
  return (
    <div
      ref={setNodeRef}
      className={`trail-card family-${kind?.family ?? "prepare"} ${chosen ? "chosen" : ""} ${on ? "" : "off"}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <button
        type="button"
        className="bare pick"
        {...attributes}
        {...listeners}
        aria-label={`Step ${index + 1}, ${label}`}
        aria-current={chosen ? "step" : undefined}
        onClick={onChoose}
      >
        {url ? <img src={url} alt="" draggable={false} /> : <span className="blank">{failed ? "cannot be shown" : ""}</span>}
      </button>
      <button type="button" className="bare gone" aria-label={`Remove ${label}`} title="Remove" onClick={onRemove}>
        ×
      </button>
      <div className="foot">
        <span className="clip" title={label}>
          {label}
        </span>
        <button
          type="button"
          className="bare onoff"
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
