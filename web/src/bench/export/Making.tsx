import { Button, Progress } from "antd";
import { useEffect, useState } from "react";
import type { ExportJob } from "../../api/client";
import { inTime } from "../../shared/inTime";
import { weight } from "../../shared/weight";

/** Seconds that are left of work whose share is done, by how fast it went since it was first seen; null while nothing is known. */
function useLeft(share: number, going: boolean): number | null {
  const [begun, setBegun] = useState<{ share: number; at: number } | null>(null);
  useEffect(() => {
    if (!going) setBegun(null);
    else if (share > 0) setBegun((now) => now ?? { share, at: Date.now() });
  }, [going, share]);
  if (!begun || share - begun.share < 0.05) return null;
  return (((Date.now() - begun.at) / (share - begun.share)) * (1 - share)) / 1000;
}

/** What was asked for last, at the foot of the panel: how far it is and what it waits for, then the way to its file. */
export function Making({ job, onStop }: { job: ExportJob; onStop: () => void }) {
  const going = job.state === "waiting" || job.state === "working";
  const left = useLeft(job.share, job.state === "working");
  const words =
    job.state === "waiting"
      ? job.behind
        ? `Waiting: ${job.behind} before it`
        : "Waiting to start"
      : job.state === "working"
        ? `Rendering ${job.file_name}: ${Math.round(job.share * 100)} %${left === null ? "" : `, ${inTime(left)} left`}`
        : job.state === "done"
          ? `${job.width} × ${job.height} · ${weight(job.size_bytes)}`
          : `${job.file_name} ${job.state === "failed" ? "failed" : "was cancelled"}${job.message ? `: ${job.message}` : ""}`;
  return (
    <div className={`making ${job.state}`}>
      {going && <Progress percent={Math.round(job.share * 100)} size="small" showInfo={false} aria-label={`${job.file_name} done`} />}
      <span className="small" role={job.state === "failed" ? "alert" : "status"}>
        {words}
      </span>
      {going && (
        <Button size="small" onClick={onStop} aria-label={`Cancel ${job.file_name}`}>
          Cancel
        </Button>
      )}
      {job.state === "done" && (
        <Button
          type="primary"
          size="large"
          href={`/api/v1/exports/${job.id}/file`}
          download={job.file_name}
          aria-label={`Download ${job.file_name}`}
        >
          Download
        </Button>
      )}
    </div>
  );
}
