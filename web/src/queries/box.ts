/** The fly box. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { boxQuery } from "../api/asks";
import { api, type BoxItemIn, unwrap } from "../api/client";

export const useBox = () => useQuery(boxQuery);

/** Fill the box, count it, take out of it; what it leaves to choose from is read again with the beats. */
export function useFillBox() {
  const client = useQueryClient();
  const done = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ["box"] }),
      client.invalidateQueries({ queryKey: ["beats"] }),
    ]);
  const put = useMutation({
    scope: { id: "box" },
    mutationFn: ({ id, body }: { id: string; body: BoxItemIn }) =>
      unwrap(api.PUT("/api/box/{item_id}", { params: { path: { item_id: id } }, body })),
    onSuccess: done,
  });
  const drop = useMutation({
    mutationFn: (id: string) =>
      unwrap(api.DELETE("/api/box/{item_id}", { params: { path: { item_id: id } } })),
    onSuccess: done,
  });
  const starter = useMutation({
    mutationFn: () => unwrap(api.POST("/api/box/starter")),
    onSuccess: done,
  });
  return { put, drop, starter };
}
