import { useCatalogue } from "../../shared/useCatalogue";
import { missed } from "../model/find";

/** What is looked for and is no step: where it is found instead, and what comes near. */
export function NoSuchStep({ text, first }: { text: string; first: (label: string) => void }) {
  const { missing, byKey } = useCatalogue();
  return missed(missing, text).map(({ what }) => (
    <p key={what.label} className="finder-none">
      <strong>{what.label}</strong> {what.told ? `is not a step. ${what.told}` : "is not in Caracol."}
      {what.near.length > 0 && (
        <>
          {" "}
          Similar:{" "}
          {what.near.map((key) => (
            <button key={key} type="button" className="bare chip" onClick={() => first(byKey.get(key)?.label ?? key)}>
              {byKey.get(key)?.label ?? key}
            </button>
          ))}
        </>
      )}
    </p>
  ));
}
