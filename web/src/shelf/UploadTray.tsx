import { Alert, Button, Progress } from "antd";
import type { Upload } from "./useUploads";
import "./UploadTray.css";

interface Props {
  uploads: Upload[];
  notes: string[];
  onDismiss: (id: number) => void;
  onClearNotes: () => void;
}

const words = { waiting: "Waiting", sending: "Sending", reading: "Reading the photo", failed: "" };
const SHOWN = 8;

/** One line per file that is on its way or could not be taken. */
export function UploadTray({ uploads, notes, onDismiss, onClearNotes }: Props) {
  if (!uploads.length && !notes.length) return null;
  const failed = uploads.filter((u) => u.state === "failed");
  const going = uploads.filter((u) => u.state !== "failed");
  return (
    <section className="uploads" aria-label="Files on their way">
      {failed.map((u) => (
        <div key={u.id} className="upload failed" role="alert">
          <strong className="clip" title={u.name}>
            {u.name}
          </strong>
          <span>{u.message}</span>
          <Button size="small" onClick={() => onDismiss(u.id)}>
            Dismiss
          </Button>
        </div>
      ))}
      {going.slice(0, SHOWN).map((u) => (
        <div key={u.id} className="upload">
          <span className="clip" title={u.name}>
            {u.name}
          </span>
          <Progress percent={Math.round(u.share * 100)} size="small" showInfo={false} aria-label={`${u.name} sent`} />
          <span className="quiet small">{words[u.state]}</span>
        </div>
      ))}
      {going.length > SHOWN && <p className="quiet small">and {going.length - SHOWN} more waiting</p>}
      {notes.length > 0 && <Alert type="info" showIcon title={notes.join(" ")} closable={{ onClose: onClearNotes }} />}
    </section>
  );
}
