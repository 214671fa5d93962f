import { Input } from "antd";
import { useEffect, useRef } from "react";
import { focusPicture } from "../keys/picture";
import { clamp, type Placed, toScreen, toStage } from "../model/geometry";
import { layerOf } from "../model/piece";
import { useBenchPart, useDocument } from "../store";
import { useWordings } from "./useWordings";
import { WordsFit } from "./WordsFit";
import "./WordsOnPicture.css";

const WIDE = 260;
const HIGH = 112;
const GAP = 8;

interface Props {
  /** Where the piece lies on the stage, and how much room that has. */
  piece: Placed;
  room: { width: number; height: number };
}

/** The words of a layer, written under where they stand on the picture. */
export function WordsOnPicture({ piece, room }: Props) {
  const { wording, edit, patch } = useBenchPart("wording", "edit", "patch");
  const document = useDocument();
  const found = useWordings().find((one) => one.layer === wording);
  // It stays where it came up, whatever is typed.
  const begun = useRef<typeof found | null>(null);
  useEffect(() => {
    begun.current = wording === null ? null : (begun.current ?? found ?? null);
  }, [wording, found]);
  const { id, source } = layerOf(document, wording);
  if (wording === null || id !== wording || source.kind !== "lettering") return null;
  // Blank words are nowhere: they are written in the middle.
  const [left = 0, top = 0, right = 0, bottom = 0] = (begun.current ?? found)?.box ?? [];
  const ends = [left, right].flatMap((x) => [top, bottom].map((y) => toScreen(piece, toStage(piece, { x, y }))));
  const [high, low] = [Math.min(...ends.map(({ y }) => y)), Math.max(...ends.map(({ y }) => y))];
  const middle = ends.reduce((sum, { x }) => sum + x / ends.length, 0);
  const under = low + GAP + HIGH <= room.height;
  return (
    <fieldset
      aria-label="Text"
      className="words-on-picture"
      style={{
        width: WIDE,
        left: clamp(middle - WIDE / 2, GAP, Math.max(GAP, room.width - WIDE - GAP)),
        top: clamp(under ? low + GAP : high - HIGH - GAP, GAP, Math.max(GAP, room.height - HIGH - GAP)),
      }}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) patch({ wording: null });
      }}
    >
      <Input.TextArea
        autoFocus
        autoSize={{ minRows: 2, maxRows: 3 }}
        maxLength={300}
        aria-label="Text on the picture"
        value={String(source.text ?? "")}
        onFocus={(event) => event.target.select()}
        onChange={(event) => edit({ type: "source", layer: id, settings: { text: event.target.value }, gesture: "source-type-text" })}
        onKeyDown={(event) => {
          if (event.key !== "Escape" && !(event.key === "Enter" && (event.ctrlKey || event.metaKey))) return;
          event.stopPropagation();
          patch({ wording: null });
          focusPicture();
        }}
      />
      <WordsFit layer={id} />
    </fieldset>
  );
}
