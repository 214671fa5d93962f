import { Button, Progress, Segmented, Slider } from "antd";
import type { ExportJob, ExportOptions } from "../../api/client";
import { Figure } from "../../shared/Figure";
import { More } from "../../shared/More";
import { useBenchPart } from "../store";
import { useExports } from "./useExports";
import "./ExportPanel.css";

const SHAPES: { key: ExportOptions["shape"]; label: string; width: number; height: number }[] = [
  { key: "own", label: "As it is", width: 22, height: 18 },
  { key: "square", label: "Square", width: 20, height: 20 },
  { key: "4:5", label: "4:5", width: 18, height: 22 },
  { key: "9:16", label: "9:16", width: 14, height: 25 },
  { key: "16:9", label: "16:9", width: 27, height: 15 },
];
const SIZES = [1080, 2048, 4096, 8192];
const FORMATS: { value: ExportOptions["format"]; label: string }[] = [
  { value: "jpeg", label: "JPEG" },
  { value: "png", label: "PNG" },
  { value: "png16", label: "PNG 16" },
  { value: "webp", label: "WebP" },
];
const STATES: Record<ExportJob["state"], string> = {
  waiting: "waiting",
  working: "working",
  done: "",
  failed: "failed",
  cancelled: "cancelled",
};

const weight = (bytes: number) => (bytes > 900_000 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1000))} kB`);

function JobLine({ job, onCancel }: { job: ExportJob; onCancel: () => void }) {
  const going = job.state === "waiting" || job.state === "working";
  return (
    <li>
      <div className="line">
        <strong className="clip" title={job.file_name}>
          {job.file_name}
        </strong>
        {job.state === "done" && (
          <a href={`/api/exports/${job.id}/file`} download={job.file_name} aria-label={`Download ${job.file_name}`}>
            Download
          </a>
        )}
        {going && (
          <Button size="small" onClick={onCancel} aria-label={`Cancel ${job.file_name}`}>
            Cancel
          </Button>
        )}
      </div>
      {going ? (
        <Progress percent={Math.round(job.share * 100)} size="small" aria-label={`${job.file_name} done`} />
      ) : (
        <span className={job.state === "failed" ? "small" : "quiet small"} role={job.state === "failed" ? "alert" : undefined}>
          {job.state === "done"
            ? `${job.width} × ${job.height} · ${weight(job.size_bytes)}`
            : `${STATES[job.state]}${job.message ? `: ${job.message}` : ""}`}
        </span>
      )}
    </li>
  );
}

/** Size, shape, format and quality of a delivery, and what was delivered before. */
export function ExportPanel({ pieceId, saveNow }: { pieceId: string; saveNow: () => Promise<boolean> }) {
  const { patch, delivery: options } = useBenchPart("patch", "delivery");
  const { jobs, ask, cancel } = useExports(pieceId, saveNow);
  const change = (part: Partial<ExportOptions>) => patch({ delivery: { ...options, ...part } });
  const lossy = options.format === "jpeg" || options.format === "webp";
  return (
    <aside className="panel" aria-label="Export">
      <div className="panel-head">
        <h2>Export</h2>
        <Button size="small" onClick={() => patch({ side: "step" })}>
          Back to the steps
        </Button>
      </div>
      <div className="shapes" role="radiogroup" aria-label="Shape">
        {SHAPES.map((shape) => (
          // biome-ignore lint/a11y/useSemanticElements: the shape itself is the control's picture
          <button
            key={shape.key}
            type="button"
            role="radio"
            className="bare shape"
            aria-checked={options.shape === shape.key}
            onClick={() => change({ shape: shape.key })}
          >
            <span className="frame">
              <i style={{ width: shape.width, height: shape.height }} />
            </span>
            {shape.label}
          </button>
        ))}
      </div>
      <div className="setting wide">
        <span className="name">Longer side, pixels</span>
        <div className="export-size">
          <Segmented aria-label="Common sizes" value={options.size} options={SIZES} onChange={(size) => change({ size: Number(size) })} />
          <Figure
            aria-label="Longer side in pixels"
            min={16}
            max={16384}
            value={options.size}
            onChange={(size) => size && change({ size: Math.round(size) })}
          />
        </div>
      </div>
      <div className="setting wide">
        <span className="name">Format</span>
        <Segmented aria-label="Format" value={options.format} options={FORMATS} onChange={(format) => change({ format })} />
      </div>
      {lossy && (
        <div className="setting">
          <span className="name">Quality</span>
          <Slider min={40} max={100} value={options.quality} onChange={(quality) => change({ quality })} ariaLabelForHandle="Quality" />
          <Figure
            aria-label="Quality, number"
            min={1}
            max={100}
            value={options.quality}
            onChange={(quality) => quality && change({ quality })}
          />
        </div>
      )}
      <p className="quiet small">sRGB profile embedded; the photo's place and camera data are left out.</p>
      <Button type="primary" size="large" loading={ask.isPending} onClick={() => ask.mutate(options)}>
        Export {options.format === "jpeg" ? "JPEG" : options.format === "webp" ? "WebP" : "PNG"}
      </Button>
      {jobs.count > 0 && (
        <>
          <h3>Delivered</h3>
          <ul className="exports">
            {jobs.items.map((job) => (
              <JobLine key={job.id} job={job} onCancel={() => cancel.mutate(job.id)} />
            ))}
          </ul>
          <More pages={jobs} />
        </>
      )}
    </aside>
  );
}
