/** Files on their way in: sent as they are, taken in by the service in the background, stopped on request. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, unwrap } from "../api/client";
import type { components } from "../api/generated";
import { newId } from "../local/outbox";

const LOOK_AGAIN_MS = 500;

export type Job = components["schemas"]["ImportOut"];
export type LogFormat = "json" | "csv" | "gpx";

/** How a log is read. */
export interface HowLog {
  format: LogFormat;
  dry: boolean;
  beat_id?: string | undefined;
  columns?: Record<string, string> | undefined;
  rig?: "euro" | "indicator" | "dry_dropper" | "dry" | undefined;
}

export const asBytes = (file: Blob) => ({
  body: file as unknown as string,
  bodySerializer: (body: unknown) => body as Blob,
  headers: { "content-type": "application/octet-stream" },
});

export const isOver = (job: Job | undefined): boolean => /^(done|failed|cancelled)$/.test(job?.state ?? "");

/** How a file that was sent is doing; once it is in, what rests on it is asked for again. */
export function useJob(id: string | null, then: readonly string[]) {
  const client = useQueryClient();
  const job = useQuery({
    queryKey: ["import", id],
    queryFn: () => unwrap(api.GET("/api/imports/{import_id}", { params: { path: { import_id: id ?? "" } } })),
    enabled: id !== null,
    refetchInterval: (query) => (isOver(query.state.data) ? false : LOOK_AGAIN_MS),
  }).data;
  const done = job?.state === "done";
  useEffect(() => {
    if (done) for (const key of then) void client.invalidateQueries({ queryKey: [key] });
  }, [done, client, then]);
  return job;
}

export const stopJob = (id: string) =>
  api.DELETE("/api/imports/{import_id}", { params: { path: { import_id: id } } });

/** Send a log; what it is answered with is the job that takes it in. */
export const useSendLog = () =>
  useMutation({
    mutationFn: ({ file, how }: { file: File; how: HowLog }) => {
      const { columns, ...rest } = how;
      const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";
      const query = { ...rest, zone, ...(columns ? { columns: JSON.stringify(columns) } : {}) };
      return unwrap(
        api.PUT("/api/imports/log/{import_id}", {
          params: { path: { import_id: newId() }, query },
          ...asBytes(file),
        }),
      );
    },
  });

/** What a log can be written as and read from. */
export const useFormats = () =>
  useQuery({
    queryKey: ["formats"],
    queryFn: () => unwrap(api.GET("/api/formats")),
    staleTime: Number.POSITIVE_INFINITY,
  });
