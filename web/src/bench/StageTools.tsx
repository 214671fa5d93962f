import { Dropdown, Tooltip } from "antd";
import { type Against, type Surround, useBenchPart } from "./store";
import "./StageTools.css";

const NEXT: Record<Surround, Surround> = { light: "middle", middle: "dark", dark: "light" };
const AGAINST: { key: "original" | "before"; label: string; against: Against }[] = [
  { key: "original", label: "The original", against: { kind: "original" } },
  { key: "before", label: "The picture before the step", against: { kind: "before" } },
];
const TURN = 1 / 24;

/** Zoom, turned view, comparing and surround, in the corner of the stage. */
export function StageTools() {
  const { zoom, viewTurn, split, beside, against, surround, showOriginal, patch } = useBenchPart(
    "zoom",
    "viewTurn",
    "split",
    "beside",
    "against",
    "surround",
    "showOriginal",
    "patch",
  );
  const degrees = Math.round(viewTurn * 360);
  const name = against.kind === "version" ? against.name : against.kind === "before" ? "step before" : "original";
  return (
    <div className="stage-tools">
      <Tooltip title="Fit (key 0); the wheel zooms, dragging moves">
        <button type="button" className="bare pill" onClick={() => patch({ zoom: 1, pan: { x: 0, y: 0 }, viewTurn: 0 })}>
          {zoom === 1 ? "Fit" : `Fit · now ${Math.round(zoom * 100)} %`}
        </button>
      </Tooltip>
      <Tooltip title="Turn the view for hand work: keys [ and ], here by 15°; a right click turns it back">
        <button
          type="button"
          className="bare pill"
          aria-label={`View turned by ${degrees}°; turn on`}
          onClick={() => patch({ viewTurn: viewTurn + TURN })}
          onContextMenu={(event) => {
            event.preventDefault();
            patch({ viewTurn: 0 });
          }}
        >
          {degrees ? `Turned ${degrees}°` : "Turn view"}
        </button>
      </Tooltip>
      <button
        type="button"
        className="bare pill"
        aria-pressed={showOriginal}
        onPointerDown={() => patch({ showOriginal: true })}
        onPointerUp={() => patch({ showOriginal: false })}
        onPointerLeave={() => showOriginal && patch({ showOriginal: false })}
      >
        Hold O: original
      </button>
      <button
        type="button"
        className="bare pill"
        aria-pressed={split !== null}
        onClick={() => patch({ split: split === null ? 0.5 : null, beside: false })}
      >
        Split
      </button>
      <button type="button" className="bare pill" aria-pressed={beside} onClick={() => patch({ beside: !beside, split: null })}>
        Side by side
      </button>
      {(split !== null || beside) && (
        <Dropdown
          menu={{
            items: AGAINST.map(({ key, label }) => ({ key, label })),
            onClick: ({ key }) => patch({ against: AGAINST.find((one) => one.key === key)?.against ?? { kind: "original" } }),
          }}
        >
          <button type="button" className="bare pill">
            with: {name}
          </button>
        </Dropdown>
      )}
      <Tooltip title="Surround: light, middle, dark (key G)">
        <button
          type="button"
          className="bare pill"
          aria-label={`Surround is ${surround}; change`}
          onClick={() => patch({ surround: NEXT[surround] })}
        >
          Surround
        </button>
      </Tooltip>
    </div>
  );
}
