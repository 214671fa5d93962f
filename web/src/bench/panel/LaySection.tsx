import { Button } from "antd";
import { memo } from "react";
import type { Setting } from "../../api/client";
import { blendName } from "../model/blendName";
import { useBenchPart } from "../store";
import { NumberControl } from "./controls/NumberControl";
import { Fold } from "./Fold";

interface Props {
  /** What the share is called: strength of a step, opacity of a layer. */
  label: "Strength" | "Opacity";
  share: number;
  blend: string;
  onShare: (share: number, gesture?: string) => void;
}

const settingOf = (label: string): Setting => ({
  name: label.toLowerCase(),
  label,
  widget: "number",
  unit: "share",
  type: "number",
  choices: null,
  minimum: 0,
  maximum: 1,
  step: 0.01,
  default: 1,
  auto: null,
  when: null,
  idle: [],
  fine: false,
  nullable: false,
  help: `0 % hides it, 100 % shows it fully.`,
});

/** How strongly, and in which blend mode, a step or layer is laid over what is below. */
export const LaySection = memo(function LaySection({ label, share, blend, onShare }: Props) {
  const { overlay, patch, toggle } = useBenchPart("overlay", "patch", "toggle");
  const setting = settingOf(label);
  return (
    <Fold section="blend" label={`${label} and blend`} note={`${Math.round(share * 100)} %, ${blendName(blend)}`}>
      <NumberControl
        kind={{ settings: [setting] }}
        setting={setting}
        settings={{ [setting.name]: share }}
        onChange={(value, gesture) => onShare(Number(value), gesture ?? `type-${label}`)}
        onDragging={(dragging) => patch({ dragging })}
      />
      <div className="setting two">
        <span className={blend === "normal" ? "" : "changed"}>Blend</span>
        <Button
          size="small"
          aria-expanded={overlay?.kind === "blends"}
          aria-label={`Blend mode: ${blend}. See all`}
          onClick={() => toggle("blends")}
        >
          {blendName(blend)}
        </Button>
      </div>
    </Fold>
  );
});
