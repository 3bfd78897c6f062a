/** The angler who is signed in: units, school and rod. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { schoolsQuery, sessionQuery } from "../api/asks";
import * as bounds from "../api/bounds";
import { api, type Rod, type School, unwrap } from "../api/client";

export const useSession = () => useQuery(sessionQuery);

export function useChangeUnits() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (units: "metric" | "us") => unwrap(api.PUT("/api/angler", { body: { units } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["session"] }),
  });
}

/** Take another rod, line or leader in hand: what rests on its reach is reckoned anew. */
export function useRod() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (rod: Rod) => unwrap(api.PUT("/api/angler", { body: { rod } })),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ["session"] }),
        client.invalidateQueries({ queryKey: ["beats"] }),
      ]),
  });
}

/** How long the rod in hand is, m: what a bubble is timed along. The shortest that there is until it is known who fishes. */
export const useRodLength = (): number => useSession().data?.angler?.rod.length_m ?? bounds.Rod.length_m.min;

export const useSchools = () => useQuery({ ...schoolsQuery, staleTime: Number.POSITIVE_INFINITY });

/** Follow a school everywhere, or at one lie (null there: as everywhere). */
export function useFollow() {
  const client = useQueryClient();
  const done = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ["session"] }),
      client.invalidateQueries({ queryKey: ["beats"] }),
    ]);
  const everywhere = useMutation({
    mutationFn: (school: School) => unwrap(api.PUT("/api/angler", { body: { school } })),
    onSuccess: done,
  });
  const here = useMutation({
    mutationFn: ({ lie, school }: { lie: string; school: School | null }) =>
      unwrap(api.PUT("/api/lies/{lie_id}/school", { params: { path: { lie_id: lie } }, body: { school } })),
    onSuccess: done,
  });
  return { everywhere, here };
}
