/** Practice: everything that happens in a hidden water is worked out by the service. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Game, unwrap } from "../api/client";

export const usePractice = () =>
  useQuery({ queryKey: ["practice"], queryFn: () => unwrap(api.GET("/api/practice")) });

export const useHiddenWater = (drill: Game["drill"], seed: number) =>
  useQuery({
    queryKey: ["practice", "water", drill, seed],
    queryFn: () =>
      unwrap(api.GET("/api/practice/waters/{drill}/{seed}", { params: { path: { drill, seed } } })),
  });

export const useCast = () =>
  useMutation({ mutationFn: (body: Game) => unwrap(api.POST("/api/practice/casts", { body })) });

export const useLift = () =>
  useMutation({ mutationFn: (body: Game) => unwrap(api.POST("/api/practice/lifted", { body })) });

export const useGameWhy = () =>
  useMutation({ mutationFn: (body: Game) => unwrap(api.POST("/api/practice/why", { body })) });

export const useHint = () =>
  useMutation({ mutationFn: (body: Game) => unwrap(api.POST("/api/practice/hint", { body })) });

export const useReveal = (game: Game, wanted: boolean) =>
  useQuery({
    queryKey: ["practice", "revealed", game],
    queryFn: () => unwrap(api.POST("/api/practice/revealed", { body: game })),
    enabled: wanted,
  });

/** What a game was worth; it is kept under its id, once, however often it is asked. */
export function useFinish(id: string, game: Game, wanted: boolean) {
  const client = useQueryClient();
  return useQuery({
    queryKey: ["practice", "finished", id, game],
    queryFn: async () => {
      const done = await unwrap(
        api.PUT("/api/practice/games/{game_id}", { params: { path: { game_id: id } }, body: { game } }),
      );
      void client.invalidateQueries({ queryKey: ["practice"], exact: true });
      return done;
    },
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
  });
}
