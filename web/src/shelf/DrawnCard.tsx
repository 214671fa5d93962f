import { useMemo } from "react";
import type { Document, SourceData } from "../api/client";
import { usePicture } from "../shared/usePicture";

interface Props {
  name: string;
  source: SourceData;
  busy: boolean;
  tab: 0 | -1;
  onStart: () => void;
}

/** A ground that needs no photo, as a picture; a click starts a piece from it. */
export function DrawnCard({ name, source, busy, tab, onStart }: Props) {
  const document = useMemo((): Document => ({ caracol: 3, layers: [{ id: "land", source, steps: [] }] }), [source]);
  const { url } = usePicture({ document, upto: 0, size: 208 });
  return (
    <button
      type="button"
      className="bare find"
      tabIndex={tab}
      data-roving={name}
      disabled={busy}
      aria-label={`Start from ${name.toLowerCase()}`}
      onClick={onStart}
    >
      {url ? <img src={url} alt="" /> : <span className="blank" />}
      <span>{name}</span>
    </button>
  );
}
