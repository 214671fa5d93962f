import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates } from "@dnd-kit/sortable";
import { Fragment, useRef } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { useRoving } from "../../shared/useRoving";
import { type Layer, sourceName } from "../model/piece";
import { SOURCE } from "../model/view";
import { useBenchPart, useRestedDocument } from "../store";
import { TrailCard } from "../trail/TrailCard";
import { useSmallLook } from "../useSmallLook";
import "./LaneSteps.css";

function AddHere({ at, tab }: { at: number; tab: 0 | -1 }) {
  const { overlay, toggle } = useBenchPart("overlay", "toggle");
  return (
    <button
      type="button"
      className="bare add-here"
      tabIndex={tab}
      aria-label={`Add a step at place ${at + 1}`}
      aria-expanded={overlay?.kind === "finder" && overlay.at === at}
      title="Add a step here"
      onClick={() => toggle("finder", at)}
    >
      +
    </button>
  );
}

const GROUNDS: Record<string, string> = { photo: "Photo", "cut-out": "Cut-out", below: "Picture below" };

/** The steps of one layer, from its ground on, a card per step. */
export function LaneSteps({ layer, group }: { layer: Layer; group: boolean }) {
  const { edit, patch, selected, toggle } = useBenchPart("edit", "patch", "selected", "toggle");
  const { byKey, sources } = useCatalogue();
  const document = useRestedDocument();
  const photo = useSmallLook(document, 0, layer.id);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: sortableKeyboardCoordinates,
      keyboardCodes: { start: ["Space"], cancel: ["Escape"], end: ["Space"] },
    }),
  );
  // One stop of the Tab key for all steps, with the way to add one behind it; while a step is carried by keys, arrows carry it.
  const carried = useRef(false);
  const at = layer.steps.find((step) => step.id === selected) ?? layer.steps[0];
  const roving = useRoving(at?.id);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    carried.current = false;
    const to = layer.steps.findIndex((step) => step.id === over?.id);
    if (over && over.id !== active.id && to >= 0) edit({ type: "move", step: String(active.id), to });
  };
  return (
    <section
      className="trail-cards"
      aria-label={`Steps of ${layer.name || "the layer"}`}
      onFocus={roving.grid.onFocus}
      onKeyDown={(event) => carried.current || roving.grid.onKeyDown(event)}
    >
      <div className={`trail-card ${selected === SOURCE ? "chosen" : ""}`}>
        <button
          type="button"
          className="bare pick source"
          aria-label={group ? "What is in the group" : layer.source.kind === "photo" ? "The photo" : `The ${layer.source.kind}`}
          onClick={() => patch({ selected: SOURCE, side: "step" })}
        >
          {photo.url ? <img src={photo.url} alt="" draggable={false} /> : <span className="blank" />}
        </button>
        {(layer.source.kind === "photo" || layer.source.kind === "cut-out") && (
          <button
            type="button"
            className="bare gone"
            aria-label="Use another photo"
            title="Use another photo"
            onClick={() => toggle("exchange")}
          >
            ⇄
          </button>
        )}
        <div className="foot">
          <span className="clip" title={group ? "Its layers put together" : sourceName(layer.source)}>
            {group ? "Its layers" : (GROUNDS[layer.source.kind] ?? sources.find((s) => s.key === layer.source.kind)?.label)}
          </span>
        </div>
      </div>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragStart={() => {
          carried.current = true;
        }}
        onDragCancel={() => {
          carried.current = false;
        }}
        onDragEnd={onDragEnd}
      >
        <SortableContext items={layer.steps.map((step) => step.id)} strategy={horizontalListSortingStrategy}>
          <AddHere at={0} tab={layer.steps.length ? -1 : 0} />
          {layer.steps.map((step, index) => (
            <Fragment key={step.id}>
              <TrailCard
                step={step}
                kind={byKey.get(step.kind)}
                layer={layer.id}
                index={index}
                chosen={step.id === selected}
                tab={roving.tab(step.id)}
                onChoose={() => patch({ selected: step.id, side: "step", whereOpen: false, whereShape: null, tool: null })}
                onSwitch={(on) => edit({ type: "switch", step: step.id, on })}
                onRemove={() => {
                  edit({ type: "remove", step: step.id });
                  if (selected === step.id) patch({ selected: null });
                }}
              />
              <AddHere at={index + 1} tab={roving.tab(step.id)} />
            </Fragment>
          ))}
        </SortableContext>
      </DndContext>
    </section>
  );
}
