/** The gauge's past from a file: sent as it is, taken in by the service in the background, stopped on request. */
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, unwrap } from "../../api/client";
import type { components } from "../../api/generated";
import { newId } from "../../local/outbox";
import { asBytes, stopJob, useJob } from "../../queries/imports";
import { Button, Trouble } from "../../ui/parts";
import { Progress } from "../../ui/progress";

const THEN = ["today", "beats"] as const;
const PREVIEW_BYTES = 65_536;
const UNITS: Record<string, string> = { flow: "m³/s", stage: "m", temperature: "°C", turbidity: "FNU" };

type Preview = components["schemas"]["PreviewOut"];

/** What the beginning of a file is read as, to be looked at before it is taken in. */
function Seen({ seen }: { seen: Preview }) {
  if (seen.fault !== null)
    return (
      <p role="alert" className="font-semibold text-stop">
        This file cannot be taken in: {seen.fault}.
      </p>
    );
  const counts = Object.entries(seen.counts).map(([name, n]) => `${n} of ${name}`);
  return (
    <>
      <p>
        Read from its beginning: {counts.join(", ") || "no value"}
        {seen.missing > 0 && `; ${seen.missing} of them are marked as missing or ice, and kept as that`}.
      </p>
      <table className="text-sm">
        <tbody>
          {seen.first.map((one) => (
            <tr key={`${one.at}${one.parameter}`}>
              <td className="pr-4 text-soft">{one.at.slice(0, 16).replace("T", " ")} UTC</td>
              <td className="pr-4">{one.parameter}</td>
              <td>
                {one.value === null
                  ? one.worth
                  : `${Number(one.value.toPrecision(4))} ${UNITS[one.parameter]}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** What may be in a file, with one to look at. */
const Formats = () => (
  <details className="text-sm text-soft">
    <summary className="min-h-11 cursor-pointer py-2 underline underline-offset-4">
      What a file looks like
    </summary>
    <p>
      CSV with a column <code>time</code> (ISO 8601 with its offset from UTC) and columns named with their
      unit: <code>flow[m3/s]</code> or <code>[ft3/s]</code>, <code>stage[m]</code> or <code>[ft]</code>,{" "}
      <code>temperature[Cel]</code> or <code>[degF]</code>, <code>turbidity[FNU]</code>, and perhaps{" "}
      <code>qualifier</code>. Words for no value, such as Ice, are kept as that. Also RDB (.rdb, .txt) and
      WaterML 2.0 (.xml).{" "}
      <a href="/gauge-example.csv" download className="underline underline-offset-4">
        An example
      </a>
    </p>
  </details>
);

/** The format of a file by its name; plain text is RDB, as gauges serve it. */
const kindOf = (name: string): "rdb" | "waterml" | "csv" =>
  /\.csv$/i.test(name) ? "csv" : /\.(xml|wml)$/i.test(name) ? "waterml" : "rdb";

export function PastFile({ gauge }: { gauge: string }) {
  const input = useRef<HTMLInputElement>(null);
  const [id, setId] = useState<string | null>(null);
  const send = useMutation({
    mutationFn: (file: File) => {
      const row = newId();
      return unwrap(
        api.PUT("/api/imports/{import_id}", {
          params: { path: { import_id: row }, query: { gauge_id: gauge, kind: kindOf(file.name) } },
          ...asBytes(file),
        }),
      );
    },
    onSuccess: (begun) => setId(begun.id),
  });
  const preview = useMutation({
    mutationFn: (file: File) =>
      unwrap(
        api.POST("/api/imports/preview", {
          params: { query: { kind: kindOf(file.name) } },
          ...asBytes(file.slice(0, PREVIEW_BYTES)),
        }),
      ).then((seen) => ({ file, seen })),
  });
  const job = useJob(id, THEN);
  const going = job?.state === "running" || job?.state === "cancelling";
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
          if (file) preview.mutate(file);
          event.target.value = "";
        }}
      />
      {going && job ? (
        <Progress
          what="taking in the file"
          share={job.share}
          count={`${job.rows} values`}
          onStop={() => void stopJob(job.id)}
        />
      ) : (
        <>
          <Button onClick={() => input.current?.click()} disabled={send.isPending}>
            {send.isPending ? "Sending…" : "Add its past from a file"}
          </Button>
          {preview.data && !send.isPending && (
            <div className="space-y-2 rounded-xl border border-line p-3">
              <p className="font-semibold">{preview.data.file.name}</p>
              <Seen seen={preview.data.seen} />
              <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
                <Button onClick={() => preview.reset()}>Leave it</Button>
                <Button
                  look="main"
                  disabled={preview.data.seen.fault !== null}
                  onClick={() => {
                    send.mutate(preview.data.file);
                    preview.reset();
                  }}
                >
                  Take it in
                </Button>
              </div>
            </div>
          )}
          {preview.isError && <Trouble error={preview.error} />}
          <Formats />
        </>
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
