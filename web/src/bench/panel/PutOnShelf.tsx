import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App, Button } from "antd";
import { api, take } from "../../api/client";
import { useBench } from "../store";

interface Props {
  layer: string;
  /** After how many steps; null for all. */
  upto: number | null;
  name: string;
}

/** Put a stage of a layer on the Shelf as a picture of its own, transparent where it is. */
export function PutOnShelf({ layer, upto, name }: Props) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const keep = useMutation({
    mutationFn: () =>
      take(
        api.POST("/api/v1/photos/from-piece", {
          body: { document: useBench.getState().history.present.document, layer, upto, name, size: 2048 },
        }),
      ),
    onSuccess: (photo) => {
      void message.success(`“${photo.name}” is on the Shelf.`);
      void queries.invalidateQueries({ queryKey: ["photos"] });
    },
    onError: (fault: Error) => void message.error(fault.message),
  });
  return (
    <Button size="small" loading={keep.isPending} title="As a new picture, with its transparency" onClick={() => keep.mutate()}>
      Save to the Shelf
    </Button>
  );
}
