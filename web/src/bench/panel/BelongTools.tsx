import { Button } from "antd";
import { useBench } from "../store";
import { useTold } from "../useTold";
import type { ToolProps } from "./kindTools";

/** What a figure was found to stand on, and where the scene's light comes from; that can be taken into the hand. */
export function BelongTools({ step }: ToolProps) {
  const told = useTold();
  const edit = useBench((state) => state.edit);
  if (!told) return null;
  if (!told.ground)
    return (
      <p role="status" className="quiet small">
        There is nothing below this layer. Move it above the picture it should match.
      </p>
    );
  const light = typeof step.settings.light === "number" ? step.settings.light : Number(told.light);
  const own = typeof step.settings.light === "number";
  return (
    <div className="row" role="status">
      <span className="quiet small">
        Light from {Math.round(((light % 1) + 1) * 360) % 360}°{own ? "" : ", found automatically"}
      </span>
      <Button size="small" onClick={() => edit({ type: "set", step: step.id, settings: { light: own ? null : light } })}>
        {own ? "Auto" : "Set by hand"}
      </Button>
    </div>
  );
}
