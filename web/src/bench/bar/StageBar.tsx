import { Dropdown } from "antd";
import { useEffect, useRef } from "react";
import { useRoving } from "../../shared/useRoving";
import { NEXT, prefer, usePrefs } from "../prefs";
import { type Against, useBenchPart } from "../store";
import { zoomToPixels, zoomWords } from "../store/view";
import { BarButton } from "./BarButton";
import { AgainstSign, BesideSign, FitSign, FoldSign, HandlesSign, LeanSign, OriginalSign, SplitSign, SurroundSign } from "./icons";
import { Plates } from "./Plates";
import "./StageBar.css";

const AGAINST: { key: "original" | "before"; label: string; against: Against }[] = [
  { key: "original", label: "The original", against: { kind: "original" } },
  { key: "before", label: "The picture before the step", against: { kind: "before" } },
];
const TURN = 1 / 24;

/** How the picture is looked at: zoom, turned view, comparing, surround. A slim bar beside it, so that nothing lies on it. */
export function StageBar() {
  const folded = usePrefs((prefs) => prefs.barFolded);
  const bar = useRef<HTMLDivElement>(null);
  const { grid } = useRoving(undefined);
  // One stop of the Tab key: the first of its tools, or the one that had the focus.
  useEffect(() => keepOneStop(bar.current, null));
  return (
    <div
      className={`stage-bar ${folded ? "folded" : ""}`}
      role="toolbar"
      aria-orientation="vertical"
      aria-label="View"
      ref={bar}
      {...grid}
      onFocus={(event) => {
        grid.onFocus(event);
        keepOneStop(bar.current, event.target);
      }}
    >
      {!folded && <Tools />}
      <BarButton label={folded ? "Show the view tools" : "Hide the view tools"} onClick={() => prefer({ barFolded: !folded })}>
        <FoldSign folded={folded} />
      </BarButton>
    </div>
  );
}

function keepOneStop(bar: HTMLElement | null, focused: Element | null) {
  const tools = [...(bar?.querySelectorAll<HTMLElement>("[data-roving]") ?? [])];
  const stop = tools.find((tool) => tool === focused) ?? tools.find((tool) => tool.tabIndex === 0 && tool.dataset.stop) ?? tools[0];
  for (const tool of tools) {
    tool.tabIndex = tool === stop ? 0 : -1;
    if (tool === stop) tool.dataset.stop = "yes";
    else delete tool.dataset.stop;
  }
}

function Tools() {
  const view = useBenchPart("zoom", "pan", "fitScale", "viewTurn", "split", "beside", "against", "bare", "showOriginal", "patch");
  const { zoom, fitScale, viewTurn, split, beside, against, bare, showOriginal, patch } = view;
  const surround = usePrefs((prefs) => prefs.surround);
  const scale = (fitScale ?? 0) * zoom;
  const degrees = Math.round(viewTurn * 360);
  const name = against.kind === "version" ? against.name : against.kind === "before" ? "the step before" : "the original";
  const hold = (part: "showOriginal" | "bare", now: boolean) => ({
    "aria-pressed": now,
    onPointerDown: () => patch({ [part]: true }),
    onPointerUp: () => patch({ [part]: false }),
    onPointerLeave: () => now && patch({ [part]: false }),
  });
  return (
    <>
      <BarButton
        label="Fit"
        told="Fit the picture (key 0); the wheel zooms, dragging moves"
        aria-pressed={zoom === 1}
        onClick={() => patch({ zoom: 1, pan: { x: 0, y: 0 }, viewTurn: 0 })}
      >
        <FitSign />
      </BarButton>
      {([1, 2] as const).map((pixels) => (
        <BarButton
          key={pixels}
          label={`${pixels}:1`}
          told={`${pixels === 1 ? "One screen pixel" : "Two screen pixels"} for each exported pixel (key ${pixels})`}
          aria-pressed={Math.abs(scale - pixels) < 0.005}
          onClick={() => patch(zoomToPixels(pixels, view))}
        >
          {pixels}:1
        </BarButton>
      ))}
      <output
        className="bar-zoom"
        aria-label="Zoom"
        title={zoom === 1 ? "The whole picture fits the view" : `${zoom.toFixed(2)} times the size that fits`}
      >
        {zoomWords(zoom)}
      </output>
      <BarButton
        label={degrees ? `View turned by ${degrees}°; turn further` : "Turn the view"}
        told="Turn the view by 15° (keys [ and ]); a right click resets it"
        aria-pressed={degrees !== 0}
        onClick={() => patch({ viewTurn: viewTurn + TURN })}
        onContextMenu={(event) => {
          event.preventDefault();
          patch({ viewTurn: 0 });
        }}
      >
        <LeanSign />
      </BarButton>
      <hr />
      <BarButton label="Original" told="Hold to see the original (key O)" {...hold("showOriginal", showOriginal)}>
        <OriginalSign />
      </BarButton>
      <BarButton
        label="Split line"
        told="A line between the original and the result (key S)"
        aria-pressed={split !== null}
        onClick={() => patch({ split: split === null ? 0.5 : null, beside: false })}
      >
        <SplitSign />
      </BarButton>
      <BarButton
        label="Side by side"
        told="The original and the result side by side (key C)"
        aria-pressed={beside}
        onClick={() => patch({ beside: !beside, split: null })}
      >
        <BesideSign />
      </BarButton>
      {(split !== null || beside) && (
        <Dropdown
          trigger={["click"]}
          menu={{
            items: AGAINST.map(({ key, label }) => ({ key, label })),
            onClick: ({ key }) => patch({ against: AGAINST.find((one) => one.key === key)?.against ?? { kind: "original" } }),
          }}
        >
          <BarButton label={`Compared with ${name}; change`}>
            <AgainstSign />
          </BarButton>
        </Dropdown>
      )}
      <hr />
      <BarButton label="Hide handles" told="Hold to hide handles, outlines and tints (key H)" {...hold("bare", bare)}>
        <HandlesSign />
      </BarButton>
      <Plates />
      <BarButton
        label={`Surround is ${surround}; change`}
        told={`Surround: ${surround}; light, middle or dark (key G)`}
        onClick={() => prefer({ surround: NEXT[surround] })}
      >
        <SurroundSign />
      </BarButton>
      <span className="spring" />
    </>
  );
}
