import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App, Button, Checkbox, Input, Segmented, Select } from "antd";
import { useState } from "react";
import { api, type Dial, take } from "../../api/client";
import { useCatalogue } from "../../shared/useCatalogue";
import { allLayers, type Layer } from "../model/piece";
import { applies, effectiveNumber } from "../model/settings";
import { useBench, useDocument } from "../store";

interface Open {
  value: string;
  label: string;
  dial: Dial;
}

/** The numbers of a trail that could be left open, by step. */
function useOpenings(layers: Layer[]): { label: string; options: Open[] }[] {
  const { byKey } = useCatalogue();
  return layers.flatMap((layer) =>
    layer.steps.flatMap((step) => {
      const kind = byKey.get(step.kind);
      if (!kind || step.on === false) return [];
      const settings = step.settings ?? {};
      const options = kind.settings
        .filter((one) => one.type === "number" && one.minimum !== null && one.maximum !== null && applies(kind, settings, one))
        .map((one) => {
          const value = effectiveNumber(kind, settings, one.name);
          const dial: Dial = {
            name: one.label,
            settings: [[layer.id, step.id, one.name]],
            low: Math.min(one.minimum as number, value),
            high: Math.max(one.maximum as number, value),
            value,
          };
          return { value: `${layer.id} ${step.id} ${one.name}`, label: one.label, dial };
        });
      return options.length ? [{ label: layers.length > 1 ? `${layer.name}: ${kind.label}` : kind.label, options }] : [];
    }),
  );
}

/** Dials whose names are alike are numbered. */
export function distinctDials(dials: Dial[]): Dial[] {
  const seen = new Map<string, number>();
  return dials.map((dial) => {
    const count = (seen.get(dial.name) ?? 0) + 1;
    seen.set(dial.name, count);
    return count > 1 ? { ...dial, name: `${dial.name} ${count}` } : dial;
  });
}

/** Keep what the piece does, or what one layer's trail does, for other photos. */
export function KeepRecipe() {
  const document = useDocument();
  const chosen = useBench((state) => state.layer);
  const pieceName = useBench((state) => state.history.present.name);
  const { message } = App.useApp();
  const queries = useQueryClient();
  const all = allLayers(document);
  const own = all.find((layer) => layer.id === chosen) ?? all[0];
  const [scope, setScope] = useState<"all" | "trail">("all");
  const layers = scope === "all" ? all : own ? [own] : [];
  const openings = useOpenings(layers);
  const [name, setName] = useState("");
  const [tags, setTags] = useState<string[]>([]);
  const [open, setOpen] = useState<string[]>([]);
  const [closed, setClosed] = useState<string[]>([]);
  const photos = layers.filter((layer) => typeof layer.source?.photo === "string");
  const keep = useMutation({
    mutationFn: () => {
      const options = openings.flatMap((group) => group.options);
      const dials = distinctDials(options.filter((one) => open.includes(one.value)).map((one) => one.dial));
      const slots = photos.filter((layer) => !closed.includes(layer.id)).map((layer) => ({ layer: layer.id, label: "" }));
      return take(
        api.POST("/api/v1/recipes", {
          body: { document, name: name.trim() || pieceName, tags, dials, layer: scope === "trail" ? (own?.id ?? null) : null, slots },
        }),
      );
    },
    onSuccess: (recipe) => {
      void message.success(`“${recipe.name}” was saved.`);
      setName("");
      setOpen([]);
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ["recipes"] }),
    onError: (fault: Error) => void message.error({ content: fault.message, duration: 8 }),
  });
  return (
    <section className="panel-part keep-recipe" aria-label="Save as a recipe">
      <h3>Save as a recipe</h3>
      {all.length > 1 && (
        <Segmented
          block
          aria-label="What to save"
          value={scope}
          options={[
            { value: "all", label: "All layers" },
            { value: "trail", label: `Trail of ${own?.name || "this layer"}` },
          ]}
          onChange={(to) => {
            setScope(to as "all" | "trail");
            setOpen([]);
          }}
        />
      )}
      <Input
        aria-label="Name of the new recipe"
        placeholder={pieceName}
        maxLength={200}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Select
        mode="tags"
        aria-label="Tags of the new recipe"
        placeholder="Tags"
        value={tags}
        onChange={setTags}
        open={false}
        suffixIcon={null}
      />
      <Select
        mode="multiple"
        aria-label="Dials"
        placeholder="Settings that become dials"
        value={open}
        onChange={setOpen}
        optionFilterProp="label"
        options={openings}
      />
      {photos.length > 1 &&
        photos.map((layer) => (
          <Checkbox
            key={layer.id}
            checked={!closed.includes(layer.id)}
            onChange={(event) => setClosed(event.target.checked ? closed.filter((id) => id !== layer.id) : [...closed, layer.id])}
          >
            Ask for a photo for {layer.name || layer.id}
          </Checkbox>
        ))}
      <Button loading={keep.isPending} onClick={() => keep.mutate()}>
        Save recipe
      </Button>
    </section>
  );
}
