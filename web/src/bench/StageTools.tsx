import { Dropdown, Tooltip } from "antd";
import { type Against, type Surround, useBenchPart } from "./store";
import { zoomToPixels } from "./store/view";
import "./StageTools.css";

const NEXT: Record<Surround, Surround> = { light: "middle", middle: "dark", dark: "light" };
const AGAINST: { key: "original" | "before"; label: string; against: Against }[] = [
  { key: "original", label: "The original", against: { kind: "original" } },
  { key: "before", label: "The picture before the step", against: { kind: "before" } },
];
const TURN = 1 / 24;

/** Zoom, turned view, comparing and surround, in the corner of the stage. */
export function StageTools() {
  const view = useBenchPart(
    "zoom",
    "pan",
    "fitScale",
    "delivery",
    "viewTurn",
    "split",
    "beside",
    "against",
    "surround",
    "showOriginal",
    "patch",
  );
  const { zoom, fitScale, delivery, viewTurn, split, beside, against, surround, showOriginal, patch } = view;
  const scale = (fitScale ?? 0) * zoom;
  const degrees = Math.round(viewTurn * 360);
  const name = against.kind === "version" ? against.name : against.kind === "before" ? "step before" : "original";
  return (
    <div className="stage-tools">
      <div className="row">
        <Tooltip title="Fit the picture into the stage (key 0); the wheel zooms, dragging moves">
          <button
            type="button"
            className="bare pill"
            aria-pressed={zoom === 1}
            onClick={() => patch({ zoom: 1, pan: { x: 0, y: 0 }, viewTurn: 0 })}
          >
            Fit
          </button>
        </Tooltip>
        {([1, 2] as const).map((pixels) => (
          <Tooltip key={pixels} title={`${pixels === 1 ? "A pixel" : "Two pixels"} of the screen to each of the export (key ${pixels})`}>
            <button
              type="button"
              className="bare pill"
              aria-pressed={Math.abs(scale - pixels) < 0.005}
              onClick={() => patch(zoomToPixels(pixels, view))}
            >
              {pixels}:1
            </button>
          </Tooltip>
        ))}
        <Tooltip title={`Per cent of the export, ${delivery.size} pixels on its longer side`}>
          <output className="pill" aria-label="Zoom, per cent of the export">
            {Math.round(scale * 100)} %
          </output>
        </Tooltip>
      </div>
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
