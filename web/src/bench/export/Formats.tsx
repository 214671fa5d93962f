import { Segmented } from "antd";
import type { ExportOptions } from "../../api/client";
import { SlidFigure } from "../../shared/SlidFigure";
import { isDeep, isLossy } from "../model/delivery";

const FILES: { key: ExportOptions["format"]; deep?: ExportOptions["format"]; label: string }[] = [
  { key: "jpeg", label: "JPEG" },
  { key: "png", deep: "png16", label: "PNG" },
  { key: "webp", label: "WebP" },
  { key: "avif", label: "AVIF" },
  { key: "tiff", deep: "tiff16", label: "TIFF" },
  { key: "openraster", label: "OpenRaster" },
  { key: "map", label: "Coordinate map" },
];

/** The kind of file, and what it leaves open. */
export function Formats({ options, onChange }: { options: ExportOptions; onChange: (part: Partial<ExportOptions>) => void }) {
  const file = FILES.find((one) => one.key === options.format || one.deep === options.format) ?? FILES[0];
  return (
    <>
      <div className="setting wide">
        <span className="name">Format</span>
        <div className="chips" role="radiogroup" aria-label="Format">
          {FILES.map((one) => (
            // biome-ignore lint/a11y/useSemanticElements: chips, as everywhere in the panel
            <button
              key={one.key}
              type="button"
              role="radio"
              className="bare chip"
              aria-checked={one === file}
              onClick={() => onChange({ format: isDeep(options.format) && one.deep ? one.deep : one.key })}
            >
              {one.label}
            </button>
          ))}
        </div>
      </div>
      {file?.deep && (
        <div className="setting two">
          <span className="name">Bits</span>
          <Segmented
            aria-label="Bits per channel"
            value={options.format}
            options={[
              { value: file.key, label: "8" },
              { value: file.deep, label: "16" },
            ]}
            onChange={(format) => onChange({ format })}
          />
        </div>
      )}
      {file?.key === "tiff" && (
        <div className="setting two">
          <span className="name">Compression</span>
          <Segmented<ExportOptions["packing"]>
            aria-label="Compression"
            value={options.packing}
            options={[
              { value: "lzw", label: "LZW" },
              { value: "deflate", label: "Deflate" },
            ]}
            onChange={(packing) => onChange({ packing })}
          />
        </div>
      )}
      {isLossy(options.format) && (
        <div className="setting">
          <span className="name">Quality</span>
          <SlidFigure
            label="Quality"
            onSlide={(quality) => onChange({ quality })}
            slide={{ min: 40, max: 100, value: options.quality }}
            figure={{ min: 1, max: 100, value: options.quality, onChange: (quality) => quality && onChange({ quality }) }}
          />
        </div>
      )}
      {options.format === "map" && (
        <p className="quiet small">
          A 16-bit TIFF for other tools. It says where each point comes from: red across, green down, blue where there is anything.
        </p>
      )}
      {options.format !== "map" && (
        <div className="setting two">
          <span className="name">Colours</span>
          <Segmented<ExportOptions["space"]>
            aria-label="Colour space"
            value={options.space}
            options={[
              { value: "srgb", label: "sRGB" },
              { value: "display-p3", label: "Display P3" },
            ]}
            onChange={(space) => onChange({ space })}
          />
        </div>
      )}
    </>
  );
}
