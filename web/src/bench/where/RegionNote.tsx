import { Button } from "antd";
import { type AreaTool, prefer } from "../prefs";
import { useBenchPart } from "../store";

const TOOLS: [AreaTool, string][] = [
  ["polygon", "Lasso"],
  ["ellipse", "Ellipse"],
  ["rectangle", "Rectangle"],
  ["stroke", "Paint"],
];

/** While the part is drawn in which a step will act: with what, and on to the step. */
export function RegionNote() {
  const { tool, region, regionAt, patch } = useBenchPart("tool", "region", "regionAt", "patch");
  if (regionAt === null) return null;
  const takeArea = (name: AreaTool) => {
    prefer({ areaTool: name });
    patch({ tool: name });
  };
  return (
    <fieldset className="stage-note" aria-label="Draw the area of the step">
      <span>Draw the area:</span>
      {TOOLS.map(([name, label]) => (
        <button key={name} type="button" className="bare chip" aria-pressed={tool === name} onClick={() => takeArea(name)}>
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
