import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates } from "@dnd-kit/sortable";
import { Fragment } from "react";
import type { Kind } from "../../api/client";
import { layerOf, type PieceDocument } from "../model/piece";
import { useBench } from "../store";
import { useSmallLook } from "../useSmallLook";
import { TrailCard } from "./TrailCard";

function AddHere({ at }: { at: number }) {
  const { finderAt, patch } = useBench();
  return (
    <button
      type="button"
      className="bare add-here"
      aria-label={`Add a step at place ${at + 1}`}
      aria-expanded={finderAt === at}
      title="Add a step here"
      onClick={() => patch({ finderAt: finderAt === at ? null : at })}
    >
      +
    </button>
  );
}

/** The trail: from the photo to the finished picture, a card per step. */
export function Trail({ document, kinds }: { document: PieceDocument; kinds: Map<string, Kind> }) {
  const { edit, patch, selected } = useBench();
  const layer = layerOf(document);
  const photo = useSmallLook(document, 0);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: sortableKeyboardCoordinates,
      keyboardCodes: { start: ["Space"], cancel: ["Escape"], end: ["Space"] },
    }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const to = layer.steps.findIndex((step) => step.id === over?.id);
    if (over && over.id !== active.id && to >= 0) edit({ type: "move", step: String(active.id), to });
  };
  return (
    <section className="trail" aria-label="Trail">
      <div className="trail-name">
        <strong className="clip">{layer.name || "Land"}</strong>
        <span className="quiet small">{layer.steps.length} steps</span>
      </div>
      <div className="trail-cards">
        <div className="trail-card">
          <button
            type="button"
            className="bare pick"
            aria-label="The finished picture"
            style={{ cursor: "pointer" }}
            onClick={() => patch({ selected: null, side: "step" })}
          >
            {photo.url ? <img src={photo.url} alt="" draggable={false} /> : <span className="blank" />}
          </button>
          <div className="foot">
            <span className="clip" title={layer.source.photo ?? ""}>
              Photo
            </span>
          </div>
        </div>
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
          <SortableContext items={layer.steps.map((step) => step.id)} strategy={horizontalListSortingStrategy}>
            <AddHere at={0} />
            {layer.steps.map((step, index) => (
              <Fragment key={step.id}>
                <TrailCard
                  step={step}
                  kind={kinds.get(step.kind)}
                  document={document}
                  index={index}
                  chosen={step.id === selected}
                  onChoose={() => patch({ selected: step.id, side: "step" })}
                  onSwitch={(on) => edit({ type: "switch", step: step.id, on })}
                  onRemove={() => {
                    edit({ type: "remove", step: step.id });
                    if (selected === step.id) patch({ selected: null });
                  }}
                />
                <AddHere at={index + 1} />
              </Fragment>
            ))}
          </SortableContext>
        </DndContext>
      </div>
    </section>
  );
}
