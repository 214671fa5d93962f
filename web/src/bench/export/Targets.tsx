import { Segmented } from "antd";
import type { ExportOptions } from "../../api/client";
import { Figure } from "../../shared/Figure";
import { useRoving } from "../../shared/useRoving";
import { CM, MOST, TARGETS, targetOf, typedSides, withDpi, withSides } from "../model/delivery";

const SIZES = [1080, 2048, 4096, 8192];
const DOTS = [150, 200, 300];

interface Props {
  options: ExportOptions;
  onChange: (options: ExportOptions) => void;
}

/** A side that is typed, in a unit. */
function Side({
  label,
  unit,
  value,
  most,
  onChange,
}: {
  label: string;
  unit: string;
  value: number;
  most: number;
  onChange: (value: number) => void;
}) {
  return (
    <Figure
      aria-label={`${label}, ${unit}`}
      suffix={unit}
      min={0.1}
      max={most}
      precision={unit === "cm" ? 1 : 0}
      value={value}
      onChange={(typed) => typed && onChange(typed)}
    />
  );
}

/** Where it is meant to go, and how large it is there. */
export function Targets({ options, onChange }: Props) {
  const target = targetOf(options);
  const roving = useRoving(target);
  const [width, height] = typedSides(options);
  const cm = CM / (options.dpi ?? 1);
  return (
    <>
      <div className="shapes" role="radiogroup" aria-label="Shape" {...roving.grid}>
        {TARGETS.map((one) => (
          // biome-ignore lint/a11y/useSemanticElements: the shape itself is the control's picture
          <button
            key={one.key}
            type="button"
            role="radio"
            tabIndex={roving.tab(one.key)}
            data-roving={one.key}
            className="bare shape"
            aria-checked={target === one.key}
            aria-label={one.title ?? one.label}
            onClick={() => onChange({ ...options, ...one.options })}
          >
            <span className="frame">
              <i style={{ width: one.icon[0], height: one.icon[1] }} />
            </span>
            {one.label}
          </button>
        ))}
      </div>
      {target === "poster" && (
        <>
          <div className="setting wide">
            <span className="name">Width and height</span>
            <div className="sides">
              <Side
                label="Width"
                unit="cm"
                value={width * cm}
                most={MOST * cm}
                onChange={(to) => onChange(withSides(options, to / cm, height))}
              />
              ×
              <Side
                label="Height"
                unit="cm"
                value={height * cm}
                most={MOST * cm}
                onChange={(to) => onChange(withSides(options, width, to / cm))}
              />
            </div>
          </div>
          <div className="setting wide">
            <span className="name">Dots per inch</span>
            <div className="export-size">
              <Segmented
                aria-label="Common dots per inch"
                value={options.dpi ?? 0}
                options={DOTS}
                onChange={(dpi) => onChange(withDpi(options, Number(dpi)))}
              />
              <Figure
                aria-label="Dots per inch, number"
                min={20}
                max={2400}
                value={options.dpi}
                onChange={(dpi) => dpi && onChange(withDpi(options, dpi))}
              />
            </div>
          </div>
        </>
      )}
      {target === "typed" && (
        <div className="setting wide">
          <span className="name">Width and height, pixels</span>
          <div className="sides">
            <Side label="Width" unit="px" value={width} most={MOST} onChange={(to) => onChange(withSides(options, to, height))} />
            ×
            <Side label="Height" unit="px" value={height} most={MOST} onChange={(to) => onChange(withSides(options, width, to))} />
          </div>
        </div>
      )}
      {options.shape !== "typed" && (
        <div className="setting wide">
          <span className="name">Longer side, pixels</span>
          <div className="export-size">
            <Segmented
              aria-label="Common sizes"
              value={options.size}
              options={SIZES}
              onChange={(size) => onChange({ ...options, size: Number(size) })}
            />
            <Figure
              aria-label="Longer side in pixels"
              min={16}
              max={MOST}
              value={options.size}
              onChange={(size) => size && onChange({ ...options, size: Math.round(size) })}
            />
          </div>
        </div>
      )}
    </>
  );
}
