import { Button, Select, Switch } from "antd";
import { memo } from "react";
import { stored } from "../../shared/storage";
import { useCatalogue } from "../../shared/useCatalogue";
import type { Shape, Where } from "../model/piece";
import { addShape, changeShape, NOWHERE, newShape, withoutShape } from "../model/where";
import { NumberControl } from "../panel/controls/NumberControl";
import { SettingControl } from "../panel/SettingControl";
import { isAreaTool, prefer } from "../prefs";
import { type Tool, useBenchPart } from "../store";
import { Areas } from "./Areas";
import { useWhere } from "./useWhere";

interface Props {
  sheet: string;
  step: string | null;
  where: Where | null;
  /** The photo whose named areas can be used here. */
  photo: string | null;
  /** Which keep area of the layer's photo it is. */
  area?: number | null;
}

const TOOLS: [Tool, string][] = [
  ["stroke", "Paint"],
  ["erase", "Erase"],
  ["polygon", "Lasso"],
  ["rectangle", "Rectangle"],
  ["ellipse", "Ellipse"],
];
const COPIED = "caracol-where";

/** Where a step or layer acts: shapes drawn on the picture, how they are joined, and how softly they end. */
export const WhereSection = memo(function WhereSection({ sheet, step, where, photo, area = null }: Props) {
  const { tool, brush, whereOpen, whereShape, patch } = useBenchPart("tool", "brush", "whereOpen", "whereShape", "patch");
  const { shapes, shapeOf, where: ofWhere } = useCatalogue();
  const setWhere = useWhere(sheet, step, area);
  const copied = stored.read<Where>(COPIED);
  const everywhere = () => {
    setWhere(null);
    patch({ whereShape: null, tool: null });
  };
  const remove = (from: Where, index: number) => {
    setWhere(withoutShape(from, index));
    patch({ whereShape: null });
  };
  const shape = whereShape === null ? undefined : where?.shapes[whereShape];
  const kind = shape && shapeOf.get(shape.kind);
  const stroke = shapeOf.get("stroke");
  const set = (change: Partial<Shape>, gesture?: string) =>
    where && whereShape !== null && setWhere(changeShape(where, whereShape, change), gesture);
  return (
    <section className="panel-part" aria-label="Area">
      <div className="part-head">
        <button
          type="button"
          className="bare part-name"
          aria-expanded={whereOpen}
          onClick={() => patch({ whereOpen: !whereOpen, tool: null })}
        >
          Area
        </button>
        <span className="quiet small">
          {where ? `${where.shapes.length} ${where.shapes.length === 1 ? "shape" : "shapes"}` : "whole picture"}
        </span>
        {where && (
          <Button size="small" onClick={everywhere}>
            Whole picture
          </Button>
        )}
      </div>
      {whereOpen && (
        <>
          <div className="chips">
            {TOOLS.map(([name, label]) => (
              <button
                key={name}
                type="button"
                className="bare chip"
                aria-pressed={tool === name}
                onClick={() => {
                  if (isAreaTool(name)) prefer({ areaTool: name });
                  patch({ tool: tool === name ? null : name });
                }}
              >
                {label}
              </button>
            ))}
            {shapes
              .filter((one) => !one.drawn)
              .map((one) => (
                <button
                  key={one.key}
                  type="button"
                  className="bare chip"
                  onClick={() => {
                    setWhere(addShape(where, newShape(one)));
                    patch({ whereShape: where?.shapes.length ?? 0, tool: null });
                  }}
                >
                  {one.label}
                </button>
              ))}
          </div>
          {tool && (
            <p className="quiet small">
              {tool === "stroke" || tool === "erase" ? "Paint on the picture." : "Draw on the picture."} Escape ends.
            </p>
          )}
          {(tool === "stroke" || tool === "erase") &&
            stroke?.settings.map((setting) => (
              <NumberControl
                key={setting.name}
                kind={stroke}
                setting={{ ...setting, label: `Brush ${setting.label.toLowerCase()}`, help: "For the next stroke." }}
                settings={brush}
                onChange={(value) => patch({ brush: { ...brush, [setting.name]: Number(value) } })}
                onDragging={() => undefined}
              />
            ))}
          {where && where.shapes.length > 0 && (
            <ol className="shape-list">
              {where.shapes.map((one, index) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a shape is known by its order alone
                <li key={index} className={index === whereShape ? "chosen" : ""}>
                  <Select
                    size="small"
                    aria-label={`How shape ${index + 1} is combined`}
                    value={one.join ?? "add"}
                    options={["add", "subtract", "intersect"].map((join) => ({ value: join, label: join }))}
                    onChange={(join) => setWhere(changeShape(where, index, { join }))}
                  />
                  <button
                    type="button"
                    className="bare"
                    aria-pressed={index === whereShape}
                    onClick={() => patch({ whereShape: index, tool: null })}
                  >
                    {shapeOf.get(one.kind)?.label ?? one.kind}
                  </button>
                  <button type="button" className="bare" aria-label={`Remove shape ${index + 1}`} onClick={() => remove(where, index)}>
                    ×
                  </button>
                </li>
              ))}
            </ol>
          )}
          {kind &&
            shape &&
            kind.settings.map((setting) => (
              <SettingControl
                key={setting.name}
                kind={kind}
                setting={setting}
                settings={shape as never}
                onChange={(value, gesture) => set({ [setting.name]: Number(value) }, gesture)}
                onDragging={(dragging) => patch({ dragging })}
              />
            ))}
          {where && (
            <>
              {ofWhere.map((setting) => (
                <NumberControl
                  key={setting.name}
                  kind={{ settings: ofWhere }}
                  setting={setting}
                  settings={{ feather: where.feather }}
                  onChange={(value, gesture) => setWhere({ ...where, [setting.name]: Number(value) }, gesture)}
                  onDragging={(dragging) => patch({ dragging })}
                />
              ))}
              <div className="setting trailing">
                <span>Invert</span>
                <Switch size="small" aria-label="Invert" checked={where.invert} onChange={(invert) => setWhere({ ...where, invert })} />
              </div>
            </>
          )}
          <div className="row">
            <Button size="small" disabled={!where} onClick={() => stored.write(COPIED, where)}>
              Copy
            </Button>
            <Button size="small" disabled={!copied} onClick={() => copied && setWhere({ ...NOWHERE, ...copied })}>
              Paste
            </Button>
            {photo && <Areas photo={photo} where={where} onTake={(area) => setWhere({ ...NOWHERE, ...area })} />}
          </div>
        </>
      )}
    </section>
  );
});
