import { Tooltip } from "antd";
import { type Surround, useBench } from "./store";

const NEXT: Record<Surround, Surround> = { light: "middle", middle: "dark", dark: "light" };

/** Zoom, original, split and surround, in the corner of the stage. */
export function StageTools() {
  const { zoom, split, surround, showOriginal, patch } = useBench();
  return (
    <div className="stage-tools">
      <Tooltip title="Fit (key 0); the wheel zooms, dragging moves">
        <button type="button" className="bare pill" onClick={() => patch({ zoom: 1, pan: { x: 0, y: 0 } })}>
          {zoom === 1 ? "Fit" : `Fit · now ${Math.round(zoom * 100)} %`}
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
        onClick={() => patch({ split: split === null ? 0.5 : null })}
      >
        Split
      </button>
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
