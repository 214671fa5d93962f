import { Button, Select } from "antd";
import { useCatalogue } from "../../shared/useCatalogue";
import { allEntries, asLayer, isGroup, sourceName } from "../model/piece";
import { ownNumber } from "../model/settings";
import { useBenchPart, useDocument } from "../store";
import { NumberControl } from "./controls/NumberControl";

const SHAPES = [
  { value: 0, label: "As the bottom layer" },
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
        <h2>Whole piece</h2>
        <span className="quiet small">
          {layers.length} {layers.length === 1 ? "layer" : "layers"}
        </span>
        <p className="quiet">Choose a layer or a step in the trail below. Change it here or on the picture.</p>
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
      <BoxSection />
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

const BOX = [
  ownNumber("turn", "Turn", -0.5, 0.5, "turns", 0.001, "Turns the box clockwise; the picture in it turns the other way.", 0),
  ownNumber("rx", "Half width", 0.05, 4, "units", 0.005, "From the middle of the box to its side.", 1),
  ownNumber("ry", "Half height", 0.05, 4, "units", 0.005, "From the middle of the box to its top.", 1),
];

/** Crop and turn of the whole piece: a box on the finished picture. */
function BoxSection() {
  const document = useDocument();
  const { boxing, boxRatio, edit, patch } = useBenchPart("boxing", "boxRatio", "edit", "patch");
  const box = document.frame?.box ?? null;
  const keep = (ratio: number) => {
    patch({ boxRatio: ratio || null });
    if (ratio && box) edit({ type: "box", box: { ...box, ry: Number((box.rx / ratio).toFixed(4)) } });
  };
  return (
    <section className="panel-part" aria-label="Crop and turn">
      <div className="part-head">
        <Button size="small" aria-pressed={boxing} onClick={() => patch({ boxing: !boxing })}>
          {boxing ? "Done" : "Crop and turn"}
        </Button>
        <span className="quiet small">{box ? "cropped" : "the whole piece"}</span>
        {box && (
          <Button size="small" onClick={() => edit({ type: "box", box: null })}>
            Reset
          </Button>
        )}
      </div>
      {boxing && (
        <>
          <p className="quiet small">Drag a corner to resize it, the arm to turn it, the inside to move it. Shift keeps the ratio.</p>
          <div className="setting two">
            <span>Ratio</span>
            <Select
              size="small"
              aria-label="Shape of the box"
              value={boxRatio ?? 0}
              options={[{ value: 0, label: "Free" }, ...SHAPES.slice(1)]}
              onChange={keep}
            />
          </div>
        </>
      )}
      {box &&
        boxing &&
        BOX.map((setting) => (
          <NumberControl
            key={setting.name}
            kind={{ settings: BOX }}
            setting={setting}
            settings={box as never}
            onChange={(value, gesture) => {
              const next = { ...box, [setting.name]: Number(value) };
              if (boxRatio && setting.name === "rx") next.ry = Number((next.rx / boxRatio).toFixed(4));
              if (boxRatio && setting.name === "ry") next.rx = Number((next.ry * boxRatio).toFixed(4));
              edit({ type: "box", box: next, gesture: `box-${gesture ?? setting.name}` });
            }}
            onDragging={(dragging) => patch({ dragging })}
          />
        ))}
    </section>
  );
}
