import { useEffect, useRef, useState } from "react";
import { api, take } from "../../../api/client";
import { useCatalogue } from "../../../shared/useCatalogue";
import { tokensOf } from "../../model/formula";
import { effective } from "../../model/settings";
import { useBench } from "../../store";
import type { ControlProps } from "./types";
import "./FormulaLine.css";

interface Fault {
  column: number;
  length: number;
  message: string;
}

const PATIENCE = 60;
/** Lines that were begun and cannot be read yet, with the line that was in force: they are there when one comes back. */
const BEGUN = new Map<string, { own: string; text: string }>();
const begun = (place: string, own: string): string => {
  const kept = BEGUN.get(place);
  return kept?.own === own ? kept.text : own;
};

const NAMES: Record<string, Record<string, string>> = {
  flat: { first: "new x", second: "new y" },
  polar: { first: "new rad", second: "new ang" },
};

/** One line of a formula, coloured by what its words are. A line that can be read is taken at once; one that cannot is kept here, underlined. */
export function FormulaLine({ kind, setting, settings, onChange }: ControlProps) {
  const { formula } = useCatalogue();
  const own = String(effective(kind, settings, setting.name));
  const place = useBench((state) => `${state.pieceId} ${state.selected} ${setting.name}`);
  const [text, setText] = useState(() => begun(place, own));
  const [fault, setFault] = useState<Fault | null>(null);
  const taken = useRef(own);
  if (own !== taken.current) {
    // Changed from elsewhere: undo, or a page of the book.
    taken.current = own;
    setText(own);
    setFault(null);
  }
  useEffect(() => {
    if (text === own) BEGUN.delete(place);
    else BEGUN.set(place, { own, text });
  }, [text, own, place]);
  const change = useRef(onChange);
  change.current = onChange;
  useEffect(() => {
    if (text === taken.current) {
      setFault(null);
      return;
    }
    let stale = false;
    const timer = setTimeout(async () => {
      try {
        const { faults } = await take(api.POST("/api/v1/formulas/checks", { body: { lines: [text] } }));
        if (stale) return;
        setFault(faults[0] ?? null);
        if (faults[0]) return;
        taken.current = text;
        change.current(text, `type-${setting.name}`);
      } catch (error) {
        if (!stale) setFault({ column: 1, length: 1, message: (error as Error).message });
      }
    }, PATIENCE);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [text, setting.name]);
  const name = NAMES[String(effective(kind, settings, "system"))]?.[setting.name] ?? setting.label;
  const isFaulty = (column: number, length: number) =>
    fault !== null && column < fault.column + fault.length && fault.column < column + length;
  return (
    <div className="setting wide formula">
      <label htmlFor={`formula-${setting.name}`} title={setting.help}>
        {name} =
      </label>
      <div className={`formula-line ${fault ? "faulty" : ""}`} data-read={fault ? "faulty" : text === own ? "yes" : "no"}>
        <pre aria-hidden="true">
          {tokensOf(text, formula).map((token) => (
            <span key={token.column} className={`word-${token.kind} ${isFaulty(token.column, token.text.length) ? "word-fault" : ""}`}>
              {token.text}
            </span>
          ))}
          <span className={fault && fault.column > text.length ? "word-fault" : ""}> </span>
        </pre>
        <textarea
          id={`formula-${setting.name}`}
          aria-label={name}
          aria-invalid={fault !== null}
          spellCheck={false}
          autoComplete="off"
          rows={1}
          maxLength={400}
          value={text}
          onChange={(event) => setText(event.target.value.replaceAll("\n", " "))}
        />
      </div>
      {fault && (
        <p role="alert" className="formula-fault">
          At {fault.column}: {fault.message}
        </p>
      )}
    </div>
  );
}
