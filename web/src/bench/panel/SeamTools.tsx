import { Button, Switch } from "antd";
import type { Pull } from "../model/seam";
import { useBench } from "../store";
import { useTold } from "../useTold";
import type { ToolProps } from "./kindTools";
import "./SeamTools.css";

const WAYS: Record<string, string> = {
  none: "unchanged",
  cut: "by a cut",
  blend: "by a blend",
  crossfade: "by a crossfade",
};

const shown = (value: unknown): string => (typeof value === "number" ? value.toFixed(value < 10 ? 1 : 0) : "…");

/** How visible the seam was and is, and what helps to judge it. */
export function SeamTools({ step }: ToolProps) {
  const told = useTold();
  const joinShown = useBench((state) => state.joinShown);
  const { patch, edit } = useBench.getState();
  const pulls = (step.settings.pulls ?? []) as Pull[];
  const pull = (next: Pull[]) => edit({ type: "set", step: step.id, settings: { pulls: next } });
  return (
    <section className="seam-tools" aria-label="Join visible">
      <p role="status">
        <span className="quiet small">Join visible</span>
        <strong>
          {shown(told?.before)} <span aria-hidden="true">→</span> <span className="visually-hidden">now</span> {shown(told?.after)}
        </strong>
        <span className="quiet small">{WAYS[String(told?.way)] ?? ""} (1 cannot be seen, 2 can)</span>
      </p>
      {step.settings.along !== "ray" && (
        <div className="setting trailing">
          <span>Show the join in the middle</span>
          <Switch size="small" aria-label="Show the join in the middle" checked={joinShown} onChange={(on) => patch({ joinShown: on })} />
        </div>
      )}
      {told?.way === "cut" && (
        <div className="row">
          <Button size="small" onClick={() => pull([...pulls, [0.5, 0.2]])}>
            Pull the cut
          </Button>
          <span className="quiet small">
            {pulls.length ? `${pulls.length} ${pulls.length === 1 ? "point" : "points"} pulled` : "or drag it on the picture"}
          </span>
          {pulls.length > 0 && (
            <Button size="small" onClick={() => pull([])}>
              Reset
            </Button>
          )}
        </div>
      )}
    </section>
  );
}
