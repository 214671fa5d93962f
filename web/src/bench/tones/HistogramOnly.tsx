import { Button } from "antd";
import { clamp, round } from "../model/geometry";
import type { Settings } from "../model/piece";
import { effectiveNumber, withTold } from "../model/settings";
import type { ToolProps } from "../panel/kindTools";
import { useBenchPart } from "../store";
import { useTold } from "../useTold";
import { type Histogram, Tones } from "./Tones";
import { Marker } from "./ToneTools";

/** How light is spread; where the step has a level, it is dragged under it. */
export function HistogramOnly({ step, kind }: ToolProps) {
  const told = useTold();
  const { edit, patch } = useBenchPart("edit", "patch");
  const level = kind.settings.some((setting) => setting.name === "level")
    ? effectiveNumber(kind, withTold(kind, step.settings, told), "level")
    : null;
  const set = (settings: Settings, gesture?: string) =>
    edit({ type: "set", step: step.id, settings, ...(gesture ? { gesture: `${step.id}-${gesture}` } : {}) });
  const auto = told?.auto as Settings | undefined;
  return (
    <section aria-label="Histogram" className="tone-tools">
      <div className="tone-box">
        <svg viewBox="0 0 1 1" preserveAspectRatio="none" height={64} role="img" aria-label="How light is spread">
          <Tones histogram={told?.histogram as Histogram | undefined} only="light" />
          {level !== null && <line x1={level} x2={level} y1={0} y2={1} stroke="var(--coral)" vectorEffect="non-scaling-stroke" />}
        </svg>
      </div>
      {level !== null && (
        <>
          <div className="tone-markers">
            <Marker
              label="Level, on the histogram"
              at={level}
              fill="var(--coral)"
              onMove={(to, gesture) => set({ level: round(clamp(to, 0, 1)) }, gesture)}
              onReset={() => set({ level: null })}
              onDragging={(dragging) => patch({ dragging })}
            />
          </div>
          <Button
            size="small"
            disabled={!auto}
            title="Sets the level so that half of the picture is lighter. It follows when the picture changes."
            onClick={() => auto && set(auto)}
          >
            Half and half
          </Button>
        </>
      )}
    </section>
  );
}
