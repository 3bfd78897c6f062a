/** The log as the service has it. */
import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { ledgerOf } from "../api/asks";
import { api, unwrap } from "../api/client";

const A_PAGE = 50;

/** Outings, newest first, as many pages as were asked for. */
export const useOutings = () =>
  useInfiniteQuery({
    queryKey: ["outings"],
    queryFn: ({ pageParam: after }) => unwrap(api.GET("/api/outings", { params: { query: { after } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => (page.length < A_PAGE ? undefined : page.at(-1)?.id),
    select: ({ pages }) => pages.flat(),
  });

/** Outings that fit every word, newest first; the ones before stand until they are there. */
export const useFound = (find: string) =>
  useInfiniteQuery({
    queryKey: ["outings", "found", find],
    queryFn: ({ pageParam: after }) => unwrap(api.GET("/api/search", { params: { query: { find, after } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ outings }) => (outings.length < A_PAGE ? undefined : outings.at(-1)?.id),
    select: ({ pages }) => ({
      outings: pages.flatMap((page) => page.outings),
      unknown: pages[0]?.unknown ?? [],
    }),
    placeholderData: keepPreviousData,
    enabled: find !== "",
  });

export const useLedger = (id: string) => useQuery(ledgerOf(id));

/** Outings drawn small. What is listed stays listed: each page is asked for once. */
export const useStrips = (ids: readonly string[]) =>
  useQuery({
    queryKey: ["outings", "strips", ids],
    queryFn: () => unwrap(api.GET("/api/strips", { params: { query: { outing: [...ids] } } })),
    enabled: ids.length > 0,
    placeholderData: keepPreviousData,
    select: (strips) => new Map(strips.map((one) => [one.id, one.blocks])),
  });

/** A year of outings beside the rivers' flow. */
export const useSeason = (year: number) =>
  useQuery({
    queryKey: ["outings", "season", year],
    queryFn: () => unwrap(api.GET("/api/seasons/{year}", { params: { path: { year } } })),
    placeholderData: keepPreviousData,
  });

/** A stay told again; asked for once somebody wants it. */
export const useStory = (outing: string, stop: string, wanted: boolean) =>
  useQuery({
    queryKey: ["ledger", outing, "story", stop],
    queryFn: () =>
      unwrap(
        api.GET("/api/outings/{outing_id}/stops/{stop_id}/story", {
          params: { path: { outing_id: outing, stop_id: stop } },
        }),
      ),
    enabled: wanted,
  });
