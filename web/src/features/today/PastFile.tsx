/** The gauge's past from a file: sent as it is, taken in by the service in the background, stopped on request. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, unwrap } from "../../api/client";
import { newId } from "../../local/outbox";
import { Button, Trouble } from "../../ui/parts";
import { percent } from "../../units/units";

const LOOK_AGAIN_MS = 500;

/** The format of a file by its name; plain text is RDB, as gauges serve it. */
const kindOf = (name: string): "rdb" | "waterml" | "csv" =>
  /\.csv$/i.test(name) ? "csv" : /\.(xml|wml)$/i.test(name) ? "waterml" : "rdb";

export function PastFile({ gauge }: { gauge: string }) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [id, setId] = useState<string | null>(null);
  const send = useMutation({
    mutationFn: (file: File) => {
      const row = newId();
      return unwrap(
        api.PUT("/api/imports/{import_id}", {
          params: { path: { import_id: row }, query: { gauge_id: gauge, kind: kindOf(file.name) } },
          body: file as unknown as string,
          bodySerializer: (body: unknown) => body as Blob,
          headers: { "content-type": "application/octet-stream" },
        }),
      );
    },
    onSuccess: (begun) => setId(begun.id),
  });
  const job = useQuery({
    queryKey: ["import", id],
    queryFn: () => unwrap(api.GET("/api/imports/{import_id}", { params: { path: { import_id: id ?? "" } } })),
    enabled: id !== null,
    refetchInterval: (query) =>
      /^(done|failed|cancelled)$/.test(query.state.data?.state ?? "") ? false : LOOK_AGAIN_MS,
  }).data;
  const going = job?.state === "running" || job?.state === "cancelling";
  useEffect(() => {
    if (job?.state !== "done") return;
    client.invalidateQueries({ queryKey: ["today"] });
    client.invalidateQueries({ queryKey: ["beats"] });
  }, [job?.state, client]);
  const stop = () => id && api.DELETE("/api/imports/{import_id}", { params: { path: { import_id: id } } });
  return (
    <div className="mt-2 space-y-2">
      <input
        ref={input}
        type="file"
        className="hidden"
        aria-label="file of the gauge's past"
        accept=".rdb,.txt,.csv,.xml,.wml"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) send.mutate(file);
          event.target.value = "";
        }}
      />
      {going && job ? (
        <div className="flex items-center gap-3">
          <div
            role="progressbar"
            aria-label="taking in the file"
            aria-valuenow={Math.round(100 * job.share)}
            className="h-3 grow rounded-full bg-line"
          >
            <div
              className="h-full rounded-full bg-mark"
              style={{ width: percent(job.share).replace(" ", "") }}
            />
          </div>
          <span className="text-sm text-soft">{job.rows} values</span>
          <Button onClick={stop}>Stop</Button>
        </div>
      ) : (
        <Button onClick={() => input.current?.click()} disabled={send.isPending}>
          {send.isPending ? "Sending…" : "Add its past from a file"}
        </Button>
      )}
      {job && !going && (
        <p
          role={job.state === "failed" ? "alert" : "status"}
          className={job.state === "failed" ? "font-semibold text-stop" : "text-soft"}
        >
          {job.message}
        </p>
      )}
      {send.isError && <Trouble error={send.error} />}
    </div>
  );
}
