import { usePicture } from "../shared/usePicture";

interface Props {
  name: string;
  source: Record<string, unknown>;
  busy: boolean;
  onStart: () => void;
}

/** A ground that needs no photo, as a picture; a click starts a piece from it. */
export function DrawnCard({ name, source, busy, onStart }: Props) {
  const document = { caracol: 1, layers: [{ id: "land", source }] };
  const { url } = usePicture(document, 0, 208, JSON.stringify(source), true);
  return (
    <button type="button" className="bare find" disabled={busy} aria-label={`Start from ${name.toLowerCase()}`} onClick={onStart}>
      {url ? <img src={url} alt="" /> : <span className="blank" />}
      <span>{name}</span>
    </button>
  );
}
