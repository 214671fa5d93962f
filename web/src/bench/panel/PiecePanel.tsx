import type { Kind } from "../../api/client";
import { layerOf, type PieceDocument } from "../model/piece";
import { useBench } from "../store";

/** What the panel shows while no step is selected: the trail in words. */
export function PiecePanel({ document, kinds }: { document: PieceDocument; kinds: Map<string, Kind> }) {
  const patch = useBench((state) => state.patch);
  const layer = layerOf(document);
  return (
    <aside className="panel" aria-label="The piece">
      <div className="panel-head">
        <h2>Finished picture</h2>
        <span className="quiet small">
          {layer.steps.length} {layer.steps.length === 1 ? "step" : "steps"}
        </span>
        <p className="quiet">Choose a step in the trail below to change it, on the picture or here.</p>
      </div>
      <p>
        From <strong>{layer.source.photo ?? "no photo"}</strong>
      </p>
      <ol style={{ margin: 0, paddingLeft: 20, display: "grid", gap: 4 }}>
        {layer.steps.map((step) => (
          <li key={step.id}>
            <button
              type="button"
              className="bare"
              onClick={() => patch({ selected: step.id })}
              style={{ textDecoration: "underline", textUnderlineOffset: 3 }}
            >
              {kinds.get(step.kind)?.label ?? step.kind}
            </button>
            {step.on === false && <span className="quiet"> (off)</span>}
          </li>
        ))}
      </ol>
    </aside>
  );
}
