import { Say } from "../../ui/parts";
import { trade } from "./trade";

/** What goes wrong, each with what it depends on and what to do. */
export function Troubles() {
  return (
    <ul className="space-y-2">
      {trade.troubles.map((trouble) => (
        <li key={trouble.title}>
          <details className="rounded-xl bg-paper" name="trouble">
            <summary className="min-h-14 cursor-pointer p-4 font-semibold">{trouble.title}</summary>
            <dl className="space-y-2 px-4 pb-4">
              {trouble.cases.map((one) => (
                <div key={one.when}>
                  <dt className="text-soft">{one.when}</dt>
                  <dd>
                    <Say text={one.do} />
                  </dd>
                </div>
              ))}
            </dl>
          </details>
        </li>
      ))}
    </ul>
  );
}
