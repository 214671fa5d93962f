import { Button, Input, Select } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Dial, Recipe, RecipeChange } from "../api/client";
import { EditableName } from "../shared/EditableName";
import { Figure } from "../shared/Figure";
import { useCatalogue } from "../shared/useCatalogue";

interface Props {
  recipe: Recipe;
  onChange: (to: RecipeChange) => void;
  onCopy: () => void;
  onDelete: () => void;
}

/** The chosen recipe: what it does, what it leaves open, and where to go with it. */
export function RecipeSide({ recipe, onChange, onCopy, onDelete }: Props) {
  const navigate = useNavigate();
  const { byKey } = useCatalogue();
  const now: RecipeChange = { name: recipe.name, tags: recipe.tags, dials: recipe.dials, slots: recipe.slots };
  const dial = (index: number, part: Partial<Dial>) =>
    onChange({ ...now, dials: recipe.dials.map((one, other) => (other === index ? { ...one, ...part } : one)) });
  return (
    <aside className="side" aria-label={`Recipe ${recipe.name}`}>
      <h2>
        <EditableName value={recipe.name} label="Name of the recipe" onChange={(name) => onChange({ ...now, name })} />
      </h2>
      {recipe.faults.map((fault) => (
        <p key={fault} role="alert" className="small">
          {fault}
        </p>
      ))}
      {!recipe.faults.length && (
        <>
          <p className="quiet">{recipe.steps.map((kind) => byKey.get(kind)?.label ?? kind).join(" → ") || "no steps"}</p>
          <Button type="primary" size="large" block onClick={() => navigate(`/recipes/${recipe.id}/try`)}>
            Try it on your photos
          </Button>
          <h3>Tags</h3>
          <Select
            mode="tags"
            aria-label="Tags"
            value={recipe.tags}
            onChange={(tags: string[]) =>
              onChange({
                ...now,
                tags: tags
                  .map((tag) => tag.trim().slice(0, 40))
                  .filter(Boolean)
                  .slice(0, 20),
              })
            }
            open={false}
            suffixIcon={null}
            placeholder="none yet; type one"
          />
          <h3>Dials</h3>
          {recipe.dials.length === 0 && <p className="quiet small">It has no dials. Save it again from the Bench to add some.</p>}
          {recipe.dials.map((one, index) => (
            <div className="dial-line" key={one.name}>
              <DialName value={one.name} onChange={(name) => dial(index, { name })} />
              <Figure
                aria-label={`${one.name}, from`}
                value={one.low}
                max={one.value}
                onChange={(low) => low !== null && dial(index, { low })}
              />
              <Figure
                aria-label={`${one.name}, to`}
                value={one.high}
                min={one.value}
                onChange={(high) => high !== null && dial(index, { high })}
              />
              <Button
                type="text"
                size="small"
                aria-label={`Remove the dial ${one.name}`}
                onClick={() => onChange({ ...now, dials: recipe.dials.filter((_, other) => other !== index) })}
              >
                ×
              </Button>
            </div>
          ))}
          <h3>Photos needed</h3>
          <p className="quiet">{recipe.slots.map((slot) => slot.label || slot.layer).join(", ") || "none"}</p>
        </>
      )}
      <div className="recipe-tools">
        <Button onClick={onCopy} disabled={recipe.faults.length > 0}>
          Duplicate
        </Button>
        <Button href={`/api/v1/recipes/${recipe.id}/file`} download>
          Save as a file
        </Button>
        <Button type="text" onClick={onDelete}>
          Delete recipe
        </Button>
      </div>
    </aside>
  );
}

/** A name that is kept when the field is left. */
function DialName({ value, onChange }: { value: string; onChange: (name: string) => void }) {
  const [typed, setTyped] = useState(value);
  const done = () => {
    const name = typed.trim();
    if (name && name !== value) onChange(name);
    else setTyped(value);
  };
  return (
    <Input
      size="small"
      aria-label={`Name of the dial ${value}`}
      maxLength={60}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onPressEnter={done}
    />
  );
}
