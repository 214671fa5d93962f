import { Select } from "antd";
import { useCatalogue } from "../../shared/useCatalogue";
import { allEntries, asLayer, isGroup, sourceName } from "../model/piece";
import { useBenchPart, useDocument } from "../store";

const SHAPES = [
  { value: 0, label: "As the lowest layer" },
  { value: 1, label: "Square" },
  { value: 0.8, label: "4 : 5" },
  { value: 1.5, label: "3 : 2" },
  { value: 16 / 9, label: "16 : 9" },
  { value: 9 / 16, label: "9 : 16" },
];

/** What the panel shows while nothing is selected: the piece's shape, and its layers and steps in words. */
export function PiecePanel() {
  const document = useDocument();
  const { byKey } = useCatalogue();
  const { edit, patch } = useBenchPart("edit", "patch");
  const layers = allEntries(document.layers).reverse();
  const ratio = document.frame?.ratio ?? 0;
  const known = SHAPES.some((shape) => Math.abs(shape.value - ratio) < 1e-6);
  return (
    <aside className="panel" aria-label="The piece">
      <div className="panel-head">
        <h2>Finished picture</h2>
        <span className="quiet small">
          {layers.length} {layers.length === 1 ? "layer" : "layers"}
        </span>
        <p className="quiet">Choose a layer or a step in the trail below to change it, on the picture or here.</p>
      </div>
      <div className="setting two">
        <span>Shape</span>
        <Select
          size="small"
          aria-label="Shape of the piece"
          value={ratio}
          options={known ? SHAPES : [...SHAPES, { value: ratio, label: ratio.toFixed(3) }]}
          onChange={(next: number) => edit({ type: "ratio", ratio: next || null })}
        />
      </div>
      {layers.map((layer) => (
        <section key={layer.id}>
          <p>
            <strong>{layer.name || layer.id}</strong>{" "}
            <span className="quiet">{isGroup(layer) ? `group of ${layer.layers.length}` : `from ${sourceName(layer.source)}`}</span>
          </p>
          <ol className="piece-list">
            {asLayer(layer).steps.map((step) => (
              <li key={step.id}>
                <button type="button" className="bare link" onClick={() => patch({ layer: layer.id, selected: step.id })}>
                  {byKey.get(step.kind)?.label ?? step.kind}
                </button>
                {step.on === false && <span className="quiet"> (off)</span>}
              </li>
            ))}
          </ol>
        </section>
      ))}
    </aside>
  );
}
