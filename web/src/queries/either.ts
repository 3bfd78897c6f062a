/** What the service answers, and this device where it does not. */
import {
  type FetchQueryOptions,
  keepPreviousData,
  onlineManager,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect } from "react";
import { PASSING_MS } from "../api/asks";
import { Refused } from "../api/client";
import { answersSoon, NotHere } from "../local/engine";
import { useOnline } from "../ui/online";

/** What the service has not said by then is worked out on this device too, where that is quick: signal may carry, and slowly. */
const SLOW_MS = 400;

const after = (ms: number) => new Promise<true>((done) => setTimeout(() => done(true), ms));

/**
 * Ask the service where there is signal; where there is none, or none answers, the core on this device. At a lie that was packed the
 * device is asked too once the service is slow, and what is said first stands.
 */
export async function serviceOr<T extends object, U extends object>(
  asked: () => Promise<T>,
  here: (asking: { signal: AbortSignal }) => Promise<U>,
  { lie, signal }: { lie?: string | undefined; signal?: AbortSignal } = {},
) {
  const given = new AbortController();
  signal?.addEventListener("abort", () => given.abort(signal.reason));
  const byDevice = async () => ({ ...(await here(given)), by: "device" as const });
  if (!onlineManager.isOnline()) return byDevice();
  const said = asked().then((answer) => ({ ...answer, by: "service" as const }));
  const came = said.then(
    () => false,
    () => false,
  );
  const slow = lie !== undefined && (await Promise.race([came, after(SLOW_MS)])) && (await answersSoon(lie));
  const begun = slow ? byDevice() : null;
  try {
    // what cannot be worked out here is waited for
    return await (begun ? Promise.race([said, begun.catch(() => said)]) : said);
  } catch (error) {
    const broken = error instanceof Refused && error.status >= 500;
    if (!broken && !(error instanceof TypeError)) throw error;
    try {
      return await (begun ?? byDevice());
    } catch (fault) {
      throw broken && fault instanceof NotHere ? error : fault; // what is wrong there is then the reason
    }
  } finally {
    given.abort(); // nobody waits for it any more
  }
}

interface Asking<T extends object> {
  queryKey: readonly unknown[];
  queryFn: (asking: { signal: AbortSignal }) => Promise<T>;
}

/**
 * A question that this device can answer too. What the service said stands without signal; what was worked out here is asked again
 * as soon as there is somebody to ask.
 */
export function useHereToo<T extends object>(
  { queryKey, queryFn }: Asking<T>,
  here: (asking: { signal: AbortSignal }) => Promise<T>,
  {
    lie,
    enabled = true,
    stays = false,
    before = false,
    passing = false,
    dropped = false,
  }: {
    lie?: string;
    enabled?: boolean;
    stays?: boolean;
    before?: boolean;
    passing?: boolean;
    dropped?: boolean;
  } = {},
) {
  const known = useQueryClient().getQueryData(queryKey) !== undefined;
  return useQuery({
    queryKey,
    queryFn: (asking) =>
      serviceOr(() => queryFn(asking), here, {
        lie,
        ...(dropped ? { signal: asking.signal } : {}), // to look at it is to want the question dropped with who asks
      }),
    networkMode: known ? "online" : "always",
    refetchOnReconnect: true,
    // without signal there is nothing to wait for; and signal may have come while it turned out that there is no engine here
    retry: (count, error) => onlineManager.isOnline() && !(error instanceof Refused) && count < 2,
    staleTime: (query) =>
      query.state.data?.by === "device" ? 0 : stays ? Number.POSITIVE_INFINITY : ANSWERED_MS,
    enabled,
    ...(passing ? { gcTime: PASSING_MS } : {}),
    ...(before ? { placeholderData: keepPreviousData } : {}),
  });
}

/** How long what is drawn is taken to be as it was. */
const ANSWERED_MS = 30_000;

/** Without signal: have what will be asked next worked out on this device, one thing after the other, until it is another. */
export function useAhead<T>(
  of: T | null,
  lie: string,
  asks: (lie: string, of: T) => FetchQueryOptions[],
  afterMs = 0,
): void {
  const client = useQueryClient();
  const online = useOnline();
  const wanted = of && !online ? JSON.stringify(of) : null;
  useEffect(() => {
    if (wanted === null) return;
    let over = false;
    const ahead = async () => {
      for (const one of asks(lie, JSON.parse(wanted) as T)) if (!over) await client.fetchQuery(one);
    };
    // where one cannot be worked out the others are not tried: who asks is told why
    const timer = setTimeout(() => void ahead().catch(() => undefined), afterMs);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [client, lie, wanted, asks, afterMs]);
}
