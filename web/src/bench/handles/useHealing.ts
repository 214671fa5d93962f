import { App } from "antd";
import { useState } from "react";
import { api, take } from "../../api/client";
import { layerOf } from "../model/piece";
import type { Stroke } from "../model/touch";
import { useBench } from "../store";

/** Strokes that heal without a source of one's own: the server finds each one's, then it is laid. */
export function useHealing() {
  const { message } = App.useApp();
  /** Strokes whose source is being looked for. */
  const [sought, setSought] = useState<Stroke[]>([]);
  const heal = (stroke: Stroke, lay: (healed: Stroke, onto: Stroke[]) => void) => {
    const { history, layer, selected } = useBench.getState();
    const document = history.present.document;
    const step = selected ?? "";
    setSought((now) => [...now, stroke]);
    take(api.POST("/api/v1/analyses/heal-sources", { body: { document, layer: layerOf(document, layer).id, step, stroke } }))
      .then((source) => {
        const found = layerOf(useBench.getState().history.present.document, layer).steps.find((one) => one.id === step);
        // A touch-up that was taken away meanwhile needs no stroke.
        if (found) lay({ ...stroke, source }, (found.settings?.strokes ?? []) as Stroke[]);
      })
      .catch((error: Error) => void message.error(error.message))
      .finally(() => setSought((now) => now.filter((one) => one !== stroke)));
  };
  return { sought, heal };
}
