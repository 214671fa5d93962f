import { Button } from "antd";
import { type Tool, useBenchPart } from "../store";

const TOOLS: [Tool, string][] = [
  ["polygon", "Lasso"],
  ["ellipse", "Ellipse"],
  ["rectangle", "Rectangle"],
  ["stroke", "Paint"],
];

/** While the part is drawn in which a step will act: with what, and on to the step. */
export function RegionNote() {
  const { tool, region, regionAt, patch } = useBenchPart("tool", "region", "regionAt", "patch");
  if (regionAt === null) return null;
  return (
    <fieldset className="stage-note" aria-label="Draw where the step will act">
      <span>Draw where it acts:</span>
      {TOOLS.map(([name, label]) => (
        <button key={name} type="button" className="bare chip" aria-pressed={tool === name} onClick={() => patch({ tool: name })}>
          {label}
        </button>
      ))}
      <Button
        size="small"
        type="primary"
        disabled={!region}
        onClick={() => patch({ overlay: { kind: "finder", at: regionAt }, regionAt: null, tool: null })}
      >
        Choose the step
      </Button>
      <Button size="small" onClick={() => patch({ region: null, regionAt: null, tool: null })}>
        Cancel
      </Button>
    </fieldset>
  );
}
